"""Texts of a graph on a picked element: where they run, what they give, and the values on wires."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.graph import Evaluation, Evaluator
from reticula.core.graph.inspection.live_values import live_text, live_wires
from reticula.core.graph.inspection.picked_element import Picked
from reticula.core.graph.inspection.text_place import text_at
from tests.core.graph.building import graph, node

SOURCE = "lift: number(0, 1) = 0.25\nhere.position = position + normal * lift * height"


@pytest.fixture(scope="module")
def done() -> Evaluation:
    nodes: dict[str, Any] = {
        "sheet": node("grid", cells=[4, 4]),
        "half": node("remove", "sheet", where="index < 8"),
        "own": {
            "operator": "script",
            "inputs": {"geo": ["half"]},
            "parameters": {"source": SOURCE, "controls": {"lift": {"formula": "height / 4"}}},
        },
        "twice": {"operator": "maths_value", "parameters": {"how": "*", "a": {"wire": "sum"}, "b": 2.0}},
        "sum": {"operator": "formula_value", "parameters": {"formula": "index + a", "a": {"formula": "height"}}},
        "wall": {"operator": "extrude", "inputs": {"geo": ["own"]}, "parameters": {"distance": {"wire": "twice"}}},
        "moved": node("set_place", "sheet", move=[0, 10, 0]),
        "ask": {"operator": "script", "inputs": {"geo": ["moved"]}, "parameters": {}},
    }
    document = {**graph(nodes), "dials": {"height": {"type": "number", "value": 2.0}}}
    return Evaluator().evaluate(document)


def test_a_script_runs_on_the_element_that_the_picked_one_came_from(done: Evaluation) -> None:
    found = live_text(done, "own", "source", SOURCE, Picked("wall", "point", 3))
    place = done.geo("half").positions[found["element"]]
    assert (found["kind"], found["missing"], found["error"]) == ("point", "", None)
    assert found["block"]["lines"][0] == [1, "0.5"], "the control follows its formula, which reads a dial"
    assert found["block"]["lines"][1] == [2, f"({place[0] + 0.0:.6g}, 1, {place[2] + 0.0:.6g})"]


def test_a_formula_runs_on_the_kind_that_its_parameter_says(done: Evaluation) -> None:
    found = live_text(done, "half", "where", "index < height", Picked("sheet", "face", 1))
    assert (found["kind"], found["element"], found["result"]) == ("face", 1, "yes")
    assert live_text(done, "half", "where", "index < height", Picked("sheet", "face", 2))["result"] == "no"


def test_what_runs_once_needs_no_pick(done: Evaluation) -> None:
    found = live_text(done, "sheet", "cells", "vec2(height, 3)", None)
    assert found["kind"] == "whole"
    assert found["missing"] == ""


def test_without_a_pick_it_says_what_to_do(done: Evaluation) -> None:
    assert live_text(done, "own", "source", SOURCE, None)["missing"].startswith("pick a point in the view")
    gone = live_text(done, "own", "source", SOURCE, Picked("sheet", "point", 0))
    assert gone["element"] is None
    assert "came from nothing that is" in gone["missing"]


def test_a_text_that_does_not_fit_says_why(done: Evaluation) -> None:
    assert live_text(done, "own", "source", "here.a = hight", Picked("own", "point", 0))["error"]["line"] == 1
    text = "here.a = here.before('hight')"
    assert (
        "no attribute 'hight'" in live_text(done, "own", "source", text, Picked("own", "point", 0))["error"]["message"]
    )


def test_a_text_may_look_a_frame_back(done: Evaluation) -> None:
    def moved(feed: str) -> Geo:
        return ops.transform(done.geo(feed), move=(5, 0, 0))

    text = "gone = here.before('position') - position\nhere.a = gone.x"
    found = live_text(done, "own", "source", text, Picked("own", "point", 1), moved)
    assert found["block"]["lines"] == [[1, "(5, 0, 0)"], [2, "5"]]
    first = live_text(done, "own", "source", text, Picked("own", "point", 1))
    assert first["block"]["lines"][1] == [2, "0"], "without a frame before it is what it is now"


def test_the_first_point_stands_for_its_piece(done: Evaluation) -> None:
    document = {**done.plan.original}
    nodes = {
        **document["nodes"],
        "own": {**document["nodes"]["own"], "parameters": {"source": SOURCE, "each": "piece"}},
    }
    other = Evaluator().evaluate({**document, "nodes": nodes})
    assert live_text(other, "own", "source", SOURCE, Picked("own", "point", 5))["element"] == 0


def test_what_questions_find_is_in_the_world(done: Evaluation) -> None:
    found = live_text(
        done, "ask", "source", "here.a = geo.nearest(position + normal).distance", Picked("ask", "point", 0)
    )
    (mark,) = found["block"]["marks"]
    assert np.allclose(mark["begin"][1], 11)
    assert np.allclose(mark["ends"][0][1], 10)


def test_values_on_wires_are_those_of_the_element_they_feed(done: Evaluation) -> None:
    shown = Picked("own", "face", 3)
    assert live_wires(done, shown) == {"sum": "5", "twice": "10"}
    assert live_wires(done, None) == {}


def test_where_a_text_stands(done: Evaluation) -> None:
    text = text_at(done, "own", "controls.lift", "height")
    assert text.elements_of()[0] == "whole"
    assert text_at(done, "half", "where", "index > 2").owner == "geo"
    assert text_at(done, "own", "source", SOURCE).script().declared.controls[0].name == "lift"
