"""The log as moments: who and when, the graph as it was at each, names, and the way back."""

from __future__ import annotations

import json
import random
from typing import Any

import pytest
from sqlalchemy.orm import Session

from reticula.core.errors import GraphError
from reticula.store import graphs, history, projects
from reticula.store.errors import Stale
from reticula.store.models import Graph


def added(number: int) -> list[dict[str, Any]]:
    return [{"op": "add", "path": f"/nodes/box_{number}", "value": {"operator": "box"}}]


@pytest.fixture
def graph(session: Session) -> Graph:
    project = projects.create(session, "Reef")
    return graphs.create(session, project.id, "Tile")


def test_an_entry_says_who_when_and_what(session: Session, graph: Graph) -> None:
    graphs.edit(session, graph.id, 0, added(1), "add a box", author="mara")
    graphs.undo(session, graph.id, 1)
    first, second = history.entries(session, graph.id)
    assert (first.kind, first.label, first.author, first.name) == ("edit", "add a box", "mara", "")
    assert (second.kind, second.target) == ("undo", 1)
    assert first.at.tzinfo is not None
    assert first.at <= second.at


def test_every_moment_is_what_it_was_in_any_order(session: Session, graph: Graph) -> None:
    dice = random.Random(4)
    was = [json.loads(graph.document)]
    for number in range(60):
        document = was[-1]
        names = list(document["nodes"])
        if names and dice.random() < 0.3:
            patch = [{"op": "remove", "path": f"/nodes/{dice.choice(names)}"}]
        else:
            patch = added(number)
        graphs.edit(session, graph.id, number, patch)
        was.append(json.loads(graph.document))
    order = [dice.randrange(61) for _ in range(200)]
    for revision in order:
        found = history.document_at(session, graph, revision)
        assert found == was[revision]
        found["nodes"]["mine"] = {}  # what was handed out is not what is kept


def test_one_goes_back_by_an_edit_and_only_once(session: Session, graph: Graph) -> None:
    for number in range(5):
        graphs.edit(session, graph.id, number, added(number))
    for _ in range(2):  # sent again, since the answer was lost
        made = graphs.go_back(session, graph.id, 5, 2, "back", "k")
        assert made.revision == 6
    assert list(json.loads(made.document)["nodes"]) == ["box_0", "box_1"]
    with pytest.raises(Stale):
        graphs.go_back(session, graph.id, 5, 1)
    with pytest.raises(GraphError, match="the same as it was then"):
        graphs.go_back(session, graph.id, 6, 2)
    graphs.undo(session, graph.id, 6)
    assert len(json.loads(graph.document)["nodes"]) == 5


def test_names_are_given_and_taken_away(session: Session, graph: Graph) -> None:
    graphs.edit(session, graph.id, 0, added(1))
    history.name_moment(session, graph, 1, "  Sent to the kiln ")
    assert history.entries(session, graph.id)[0].name == "Sent to the kiln"
    history.name_moment(session, graph, 1, "")
    assert history.entries(session, graph.id)[0].name == ""
    with pytest.raises(GraphError, match="there is no revision 9"):
        history.name_moment(session, graph, 9, "x")
    with pytest.raises(GraphError, match="there is no revision 9"):
        history.document_at(session, graph, 9)


@pytest.mark.slow
def test_five_thousand_edits_are_gone_through(session: Session, graph: Graph) -> None:
    for number in range(5000):
        patch = [{"op": "add", "path": "/title", "value": f"Tile {number}"}]
        graphs.edit(session, graph.id, number, patch)
    assert len(history.entries(session, graph.id)) == 5000
    assert history.document_at(session, graph, 0)["title"] == "Tile"
    for revision in (1, 2500, 3, 4999):
        assert history.document_at(session, graph, revision)["title"] == f"Tile {revision - 1}"
