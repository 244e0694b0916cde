"""Edits put on top of what others did since: apart, over the same value, or not at all."""

from __future__ import annotations

import itertools
import json
import random
from typing import Any

import pytest
from sqlalchemy.orm import Session

from reticula.store import graphs, projects
from reticula.store.errors import Stale
from reticula.store.rebasing import fits_on_top, paths_of


def put(path: str, value: Any = 1, op: str = "replace") -> dict[str, Any]:
    return {"op": op, "path": path, "value": value}


def take(path: str) -> dict[str, Any]:
    return {"op": "remove", "path": path}


@pytest.mark.parametrize(
    ("mine", "theirs", "found"),
    [
        (put("/nodes/a/title"), put("/nodes/b/title"), True),
        (put("/nodes/a/title"), put("/nodes/a/skip"), True),
        (put("/nodes/a/title"), put("/nodes/a/title"), True),
        (put("/nodes/a/title", op="add"), take("/nodes/a/title"), True),
        (put("/nodes/a/title"), take("/nodes/a/title"), False),
        (put("/nodes/a/title"), take("/nodes/a"), False),
        (take("/nodes/a"), take("/nodes/a"), False),
        (take("/nodes/a"), put("/nodes/a/title"), True),
        (put("/nodes/a/title"), put("/nodes/a", {}, "add"), False),
        (put("/nodes/a/size/0"), put("/nodes/a/size/1"), True),
        (put("/nodes/a/inputs/geo/0"), take("/nodes/a/inputs/geo/0"), False),
        (put("/nodes/a/inputs/geo/1"), take("/nodes/a/inputs/geo/0"), False),
        (take("/nodes/a/inputs/geo/1"), put("/nodes/a/inputs/geo/0"), False),
        (put("/nodes/a/inputs/geo/-", op="add"), put("/nodes/a/inputs/geo/-", op="add"), False),
        (put("/nodes/a", {}, "add"), put("/nodes/a", {}, "add"), False),
        (put("/nodes/a/parameters/x", {}, "add"), put("/nodes/a/parameters/x", 2, "add"), True),
        (put("/frames/1/x"), put("/frames/2/x"), True),
        ({"op": "move", "from": "/nodes/a", "path": "/nodes/b"}, put("/nodes/a/title"), True),
        ({"op": "copy", "from": "/nodes/a", "path": "/nodes/b"}, put("/nodes/a/title"), False),
        ({"op": "test", "path": "/nodes/a/title", "value": 1}, put("/nodes/a/title"), False),
    ],
)
def test_what_fits_on_top_of_what(mine: dict[str, Any], theirs: dict[str, Any], found: bool) -> None:
    assert fits_on_top([mine], [[theirs]]) is found
    assert fits_on_top([mine], [])


def test_paths_are_where_something_changes() -> None:
    patch = [put("/a/b"), {"op": "test", "path": "/c"}, {"op": "move", "from": "/d", "path": "/e"}, put("/a/b", 2)]
    assert paths_of(patch) == [("a", "b"), ("e",), ("d",)]


def test_edits_of_different_nodes_are_never_refused(session: Session) -> None:
    graph = graphs.create(session, projects.create(session, "Reef").id, "Tile")
    dice, count = random.Random(2), itertools.count(1)
    names = {who: [f"{who}_{number}" for number in range(6)] for who in ("mara", "ines")}
    boxes = [put(f"/nodes/{one}", {"operator": "box"}, "add") for own in names.values() for one in own]
    graphs.edit(session, graph.id, 0, boxes)
    known = dict.fromkeys(names, 1)
    last: dict[str, Any] = {}
    for _ in range(300):
        who = dice.choice(list(names))
        name = dice.choice(names[who])
        value = next(count)
        node = {"operator": "box", "parameters": {"size": [value, 1, 1]}}
        made = graphs.edit(session, graph.id, known[who], [put(f"/nodes/{name}", node)])
        last[name] = node
        if dice.random() < 0.4:
            known[who] = made.revision
    nodes = json.loads(graphs.get(session, graph.id).document)["nodes"]
    assert {name: nodes[name] for name in last} == last
    assert graphs.get(session, graph.id).revision == 301


def test_of_edits_of_one_value_the_later_wins_and_what_does_not_fit_is_stale(session: Session) -> None:
    graph = graphs.create(session, projects.create(session, "Reef").id, "Tile")
    graphs.edit(session, graph.id, 0, [put("/nodes/a", {"operator": "box"}, "add")])
    graphs.edit(session, graph.id, 1, [put("/nodes/a/title", "Mara's", "add")])
    made = graphs.edit(session, graph.id, 1, [put("/nodes/a/title", "Ines'", "add")])
    assert json.loads(made.document)["nodes"]["a"]["title"] == "Ines'"
    graphs.edit(session, graph.id, 3, [take("/nodes/a")])
    with pytest.raises(Stale):
        graphs.edit(session, graph.id, 3, [put("/nodes/a/title", "Too late", "add")])
    with pytest.raises(Stale):
        graphs.edit(session, graph.id, 99, [put("/title", "From the future")])
