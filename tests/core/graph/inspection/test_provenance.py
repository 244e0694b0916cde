"""Trace: the way of an element back to the node that made it."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from reticula.core.errors import GeometryError
from reticula.core.graph import Evaluation, Evaluator
from reticula.core.graph.inspection.provenance import trace
from tests.core.graph.building import graph, node


def evaluated(**nodes: dict[str, Any]) -> Evaluation:
    return Evaluator().evaluate(graph(nodes))


def way(done: Evaluation, feed: str, kind: Any, element: int) -> list[tuple[str, int, str]]:
    return [(step.feed, step.element, step.how) for step in trace(done, feed, kind, element)]


def test_a_face_that_was_only_moved_is_followed_to_where_it_was_made() -> None:
    done = evaluated(
        a=node("grid", cells=[3, 3]), b=node("transform", "a", move=[0, 1, 0]), c=node("group", "b", where="index < 2")
    )
    assert way(done, "c", "face", 4) == [("c", 4, "kept"), ("b", 4, "kept"), ("a", 4, "new")]
    steps = trace(done, "c", "face", 4)
    assert steps[0].position == pytest.approx((0.0, 1.0, 0.0))
    assert steps[-1].position == pytest.approx((0.0, 0.0, 0.0))


def test_a_number_that_shifts_is_followed_by_name() -> None:
    done = evaluated(a=node("grid", cells=[4, 1]), b=node("remove", "a", where="index < 2"))
    assert way(done, "b", "face", 0) == [("b", 0, "kept"), ("a", 2, "new")]


def test_children_lead_to_what_they_were_made_from() -> None:
    done = evaluated(a=node("grid", cells=[2, 1]), b=node("split_faces", "a"))
    parents = [way(done, "b", "face", face)[1][1] for face in range(done.geo("b").topology.face_count)]
    assert sorted(parents) == [0, 0, 0, 0, 1, 1, 1, 1]
    hows = {way(done, "b", "face", face)[0][2] for face in range(8)}
    assert hows == {"kept", "made"}


def test_walls_are_new_or_come_from_a_face_and_joined_pieces_from_their_own_input() -> None:
    done = evaluated(
        a=node("box"),
        b=node("grid", cells=[2, 2]),
        c=node("extrude", "a", where="normal.y > 0.5"),
        j=node("join", inputs={"geometries": ["c", "b"]}),
    )
    count = done.geo("c").topology.face_count
    last = way(done, "j", "face", count + 3)
    assert last == [("j", count + 3, "kept"), ("b", 3, "new")]
    walls = done.geo("c").group("face", "side")
    step = way(done, "j", "face", int(np.flatnonzero(walls)[0]))
    assert step[0][2] == "kept"
    assert step[1][0] == "c"
    assert step[-1][2] == "new"


def test_skipped_nodes_corners_and_what_does_not_exist() -> None:
    done = evaluated(a=node("box"), b={**node("transform", "a"), "skip": True})
    assert way(done, "b", "point", 2) == [("b", 2, "kept"), ("a", 2, "new")]
    assert trace(done, "a", "corner", 5)[0].kind == "face"
    for kind, element in (("face", 6), ("point", -1), ("corner", 99)):
        with pytest.raises(GeometryError, match="there are only"):
            trace(done, "a", kind, element)


GENERATORS = ("grid", "scatter", "sphere", "box", "circle", "line", "cylinder")
KEEPING = ("join", "transform", "extrude", "split_faces", "remove", "mirror", "unshare", "weld", "inset")


@pytest.mark.parametrize("step", KEEPING)
@pytest.mark.parametrize("maker", GENERATORS)
def test_elements_are_traced_to_the_place_they_came_from(maker: str, step: str) -> None:
    """A copy of the place that each point was made at is carried along; trace ends where that says."""
    nodes = {
        "first": node("grid", cells=[3, 3]),
        "second": node("grid" if maker == "scatter" else maker),
        "apart": node("transform", "second", move=[3, 1, 2]),
    }
    if maker == "scatter":
        nodes["second"] = node("scatter", "first", total=30)
    nodes["both"] = node("join", inputs={"geometries": ["first", "apart"]})
    nodes["known"] = node("set_attribute", "both", name="came_from", value={"formula": "position"})
    more = {"inputs": {"geometries": ["known", "first"]}} if step == "join" else {}
    nodes["last"] = (
        node(step, **more)
        if step == "join"
        else node(step, "known", **({"where": "index < 3"} if step == "remove" else {}))
    )
    done = evaluated(**nodes)
    geo = done.geo("last")
    rng = np.random.default_rng(1)
    for element in rng.permutation(geo.topology.point_count)[:12]:
        steps = trace(done, "last", "point", int(element))
        at = next((one for one in steps if one.feed == "known"), None)
        if at is not None and steps[0].how == "kept":
            assert at.position == pytest.approx(tuple(geo.attribute("point", "came_from")[element]), abs=1e-9)
        if at is not None:
            expected = "first" if at.element < 16 else "second"
            assert expected in [one.feed for one in steps], "each mesh is traced to its own maker"
