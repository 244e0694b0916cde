"""A picked element is found again in other results, by its way, its name, or what it touches."""

from __future__ import annotations

from typing import Any

import pytest

from reticula.core.errors import GeometryError
from reticula.core.graph import Evaluation, Evaluator
from reticula.core.graph.inspection.picked_element import Picked, element_in, related
from tests.core.graph.building import graph, node


@pytest.fixture(scope="module")
def done() -> Evaluation:
    nodes: dict[str, Any] = {
        "sheet": node("grid", cells=[4, 1]),
        "rest": node("remove", "sheet", where="index < 2"),
        "fine": node("split_faces", "rest"),
        "wall": node("extrude", "rest", distance=0.2),
        "other": node("box"),
    }
    return Evaluator().evaluate(graph(nodes))


def test_by_its_way_back(done: Evaluation) -> None:
    assert element_in(done, Picked("rest", "face", 0), "sheet", "face") == 2
    assert element_in(done, Picked("fine", "face", 0), "sheet", "face") == 2


def test_forwards_by_its_name(done: Evaluation) -> None:
    assert element_in(done, Picked("sheet", "face", 3), "rest", "face") == 1
    assert element_in(done, Picked("sheet", "face", 0), "rest", "face") is None


def test_another_kind_is_the_first_that_touches_it(done: Evaluation) -> None:
    face = element_in(done, Picked("rest", "point", 0), "sheet", "face")
    sheet = done.geo("sheet").topology
    assert face is not None
    point = element_in(done, Picked("rest", "point", 0), "sheet", "point")
    assert point in sheet.corner_point[sheet.face_start[face] : sheet.face_start[face + 1]]


def test_a_new_wall_stands_for_what_it_touches(done: Evaluation) -> None:
    count = done.geo("wall").topology.face_count
    assert all(element_in(done, Picked("wall", "face", face), "rest", "face") in (0, 1) for face in range(count))


def test_the_whole_is_always_there_and_others_may_not_be(done: Evaluation) -> None:
    assert element_in(done, Picked("rest", "face", 0), "sheet", "whole") == 0
    assert element_in(done, Picked("rest", "face", 0), "other", "face") is None
    assert element_in(done, Picked("rest", "face", 0), "gone", "face") is None
    with pytest.raises(GeometryError, match="there are only 2 faces here; pick again"):
        element_in(done, Picked("rest", "face", 9), "rest", "face")


def test_related_elements() -> None:
    geo = Evaluator().evaluate(graph({"a": node("grid", cells=[2, 1])})).geo("a")
    assert related(geo, "face", 1, "face") == 1
    assert related(geo, "face", 1, "point") == int(geo.topology.corner_point[geo.topology.face_start[1]])
    assert related(geo, "face", 1, "curve") is None
    assert related(geo, "instance", 0, "point") is None
