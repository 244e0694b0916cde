"""Projects in the database."""

import pytest
from sqlalchemy.orm import Session

from reticula.store import graphs, projects
from reticula.store.errors import NotFound


def test_made_listed_renamed_and_deleted(session: Session) -> None:
    first, second = projects.create(session, "Reef"), projects.create(session, "Kelp")
    assert {one.id for one in projects.list_all(session)} >= {first.id, second.id}
    projects.rename(session, first.id, "Outer reef")
    assert projects.get(session, first.id).title == "Outer reef"
    graph = graphs.create(session, first.id, "Tile").id
    gone = first.id
    projects.delete(session, gone)
    session.flush()
    session.expunge_all()
    with pytest.raises(NotFound, match="There is no project"):
        projects.get(session, gone)
    with pytest.raises(NotFound):
        graphs.get(session, graph)
