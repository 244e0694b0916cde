"""Graphs and their edit log in the database."""

from importlib import import_module

import numpy as np
import pytest
from sqlalchemy import update
from sqlalchemy.orm import Session

from reticula.core.errors import GraphError
from reticula.store import graphs, history, projects
from reticula.store.errors import NotFound, Stale, StoreError
from reticula.store.models import Edit

BOX = [{"op": "add", "path": "/nodes/box", "value": {"operator": "box"}}]
LOOK = [{"op": "add", "path": "/looking_at", "value": "box"}]


@pytest.fixture
def graph(session: Session) -> str:
    return graphs.create(session, projects.create(session, "Reef").id, "Tile").id


def nodes(session: Session, graph: str) -> list[str]:
    return sorted(graphs.state(session, graphs.get(session, graph))["document"]["nodes"])


def test_undo_and_redo_walk_the_log(session: Session, graph: str) -> None:
    graphs.edit(session, graph, 0, BOX, "add box")
    graphs.edit(session, graph, 1, LOOK, "look at box")
    state = graphs.state(session, graphs.get(session, graph))
    assert (state["undo"], state["redo"], state["revision"]) == ("look at box", None, 2)
    graphs.undo(session, graph, 2)
    graphs.undo(session, graph, 3)
    assert nodes(session, graph) == []
    graphs.redo(session, graph, 4)
    assert nodes(session, graph) == ["box"]
    state = graphs.state(session, graphs.get(session, graph))
    assert (state["undo"], state["redo"]) == ("add box", "look at box")
    assert [edit.kind for edit in history.entries(session, graph)] == ["edit", "edit", "undo", "undo", "redo"]


def test_an_edit_that_is_sent_again_is_not_applied_again(session: Session, graph: str) -> None:
    first = graphs.edit(session, graph, 0, BOX, "add box", "one")
    assert first.revision == 1
    assert graphs.edit(session, graph, 0, BOX, "add box", "one").revision == 1
    with pytest.raises(Stale):
        graphs.edit(session, graph, 0, BOX, "add box", "two")
    assert graphs.edit(session, graph, 1, LOOK, "look at box", "two").revision == 2
    assert len(history.entries(session, graph)) == 2


def test_a_step_that_is_sent_again_is_not_done_again(session: Session, graph: str) -> None:
    graphs.edit(session, graph, 0, BOX, "add box")
    graphs.edit(session, graph, 1, LOOK, "look at box")
    for _ in range(2):
        assert graphs.undo(session, graph, 2, "back", "Mira").revision == 3
    assert nodes(session, graph) == ["box"]
    for _ in range(2):
        assert graphs.redo(session, graph, 3, "forth", "Mira").revision == 4
    assert [edit.author for edit in history.entries(session, graph)] == ["", "", "Mira", "Mira"]


@pytest.mark.parametrize("seed", range(6))
def test_what_undo_and_redo_act_on_is_what_the_log_tells(session: Session, graph: str, seed: int) -> None:
    rng = np.random.default_rng(seed)
    done: list[str] = []
    undone: list[str] = []
    for step in range(40):
        now = graphs.state(session, graphs.get(session, graph))
        assert (now["undo"], now["redo"]) == (done[-1] if done else None, undone[-1] if undone else None)
        match rng.choice(["edit", "undo", "redo"]):
            case "undo" if done:
                graphs.undo(session, graph, now["revision"])
                undone.append(done.pop())
            case "redo" if undone:
                graphs.redo(session, graph, now["revision"])
                done.append(undone.pop())
            case _:
                title = [{"op": "replace", "path": "/title", "value": f"title {step}"}]
                graphs.edit(session, graph, now["revision"], title, f"edit {step}")
                done, undone = [*done, f"edit {step}"], []
    found = graphs.get(session, graph)
    before = (found.undo_revision, found.redo_revision)
    session.execute(update(Edit).values(undo_below=None, redo_below=None))
    link = import_module("reticula.store.migrations.versions.0004_keys_and_stacks")._link
    link(session.connection(), graph)
    session.expire_all()
    found = graphs.get(session, graph)
    assert (found.undo_revision, found.redo_revision) == before
    while found.undo_revision is not None:
        graphs.undo(session, graph, found.revision)
    assert found.title == "Tile"


def test_a_new_edit_ends_what_could_be_redone(session: Session, graph: str) -> None:
    graphs.edit(session, graph, 0, BOX)
    graphs.undo(session, graph, 1)
    graphs.edit(session, graph, 2, BOX)
    with pytest.raises(StoreError, match="nothing to redo"):
        graphs.redo(session, graph, 3)


def test_an_edit_of_an_older_revision_gets_the_newest_state(session: Session, graph: str) -> None:
    graphs.edit(session, graph, 0, BOX)
    with pytest.raises(Stale) as caught:
        graphs.edit(session, graph, 0, BOX)
    assert caught.value.current["revision"] == 1
    assert nodes(session, graph) == ["box"]


def test_every_revision_can_be_read_again(session: Session, graph: str) -> None:
    graphs.edit(session, graph, 0, BOX)
    graphs.edit(session, graph, 1, LOOK)
    found = graphs.get(session, graph)
    assert history.document_at(session, found, 0)["nodes"] == {}
    assert (
        "looking_at" not in history.document_at(session, found, 0)
        or not history.document_at(session, found, 0)["looking_at"]
    )
    assert "box" in history.document_at(session, found, 1)["nodes"]
    with pytest.raises(GraphError, match="no revision 7"):
        history.document_at(session, found, 7)


def test_a_draft_lies_on_the_revision_it_was_made_against(session: Session, graph: str) -> None:
    graphs.edit(session, graph, 0, BOX)
    found = graphs.get(session, graph)
    assert "box" in graphs.drafted(session, found, BOX, 0)["nodes"], "not applied twice"
    assert graphs.drafted(session, found, [], None)["nodes"].keys() == {"box"}


@pytest.mark.parametrize(
    "patch",
    [
        [{"op": "remove", "path": "/nodes/none"}],
        [{"op": "add", "path": "/nodes", "value": 3}],
        [{"op": "replace", "path": "/a/b/c", "value": 1}],
    ],
)
def test_an_edit_that_does_not_fit_changes_nothing(session: Session, graph: str, patch: graphs.Patch) -> None:
    with pytest.raises(GraphError):
        graphs.edit(session, graph, 0, patch)
    assert graphs.state(session, graphs.get(session, graph))["revision"] == 0


def test_deleted_is_not_found(session: Session, graph: str) -> None:
    graphs.delete(session, graph)
    session.flush()
    with pytest.raises(NotFound, match="There is no graph"):
        graphs.get(session, graph)
