"""What is told about a text while it is written: errors, names with ranges, results in words, controls, printing."""

from __future__ import annotations

from typing import Any

import pytest

from reticula.core.graph import Evaluator
from reticula.core.graph.inspection.text_inspection import inspect_text

NODES: dict[str, Any] = {
    "sheet": {"operator": "grid", "parameters": {"cells": [4, 4]}},
    "heat": {
        "operator": "set_attribute",
        "inputs": {"geo": ["sheet"]},
        "parameters": {"name": "heat", "value": {"formula": "index * 0.5"}},
    },
    "mark": {"operator": "group", "inputs": {"geo": ["heat"]}},
    "own": {
        "operator": "script",
        "inputs": {"geo": ["heat"]},
        "parameters": {"controls": {"amount": {"formula": "height"}}},
    },
    "ring": {"operator": "circle"},
}


def inspect(node: str, parameter: str, source: str, elements: tuple[int, ...] = ()) -> dict[str, Any]:
    document = {
        "format": "reticula graph",
        "version": 1,
        "nodes": NODES,
        "dials": {"height": {"type": "number", "value": 2}},
    }
    return inspect_text(Evaluator().evaluate(document), node, parameter, source, elements)


def test_a_formula_tells_how_many_hold_or_its_range() -> None:
    assert inspect("mark", "where", "index < 4")["result"] == "flag: 4 of 16 (25.0%)"
    assert inspect("mark", "where", "")["result"] == "all 16"
    assert inspect("heat", "value", "position.x * height")["result"] == "number: -1 to 1"
    assert "round it with integer(x)" in inspect("ring", "segments", "height * 0.3")["error"]["message"]
    assert inspect("ring", "radius", "height * 3")["result"] == "6"


def test_an_error_has_its_place() -> None:
    found = inspect("mark", "where", "area > heta")
    assert (found["error"]["line"], found["error"]["column"], found["error"]["length"]) == (1, 8, 4)
    assert found["result"] == ""


def test_names_have_types_and_real_ranges() -> None:
    names = {entry["name"]: entry for entry in inspect("own", "source", "here.a = 1")["names"]}
    assert (names["heat"]["type"], names["heat"]["summary"], names["heat"]["from"]) == (
        "number",
        "0 to 12",
        "attribute",
    )
    assert names["position"]["unit"] == "m"
    assert names["height"]["from"] == "control"
    assert names["valence"]["from"] == "built-in"
    assert names["geo"]["from"] == "input"


def test_members_follow_what_stands_before_the_dot() -> None:
    members = inspect("own", "source", "reef: geometry\nhere.a = 1")["members"]
    assert {"neighbours", "faces", "heat"} <= {entry["name"] for entry in members["here"]}
    assert {"closest", "near", "ray"} <= {entry["name"] for entry in members["reef"]}
    assert {"points", "faces"} <= {entry["name"] for entry in members["geo"]}
    assert {"area"} <= {entry["name"] for entry in members["here.faces"]}
    assert {"distance", "found", "normal"} <= {entry["name"] for entry in members["()"]}


def test_a_script_tells_its_controls_and_inputs() -> None:
    found = inspect("own", "source", "amount: number(0, 3) = 1\nreef: geometry\nhere.a = amount")
    assert [(c["name"], c["widget"], c["default"]) for c in found["controls"]] == [("amount", "number", 1.0)]
    assert [entry["name"] for entry in found["inputs"]] == ["reef"]
    assert found["error"] is None


def test_a_broken_script_tells_no_controls_but_still_names() -> None:
    found = inspect("own", "source", "amount: number(0, 3) = 1\nhere.a = (")
    assert found["controls"] is None
    assert found["error"]["line"] == 2
    assert any(entry["name"] == "heat" for entry in found["names"])


@pytest.mark.parametrize(
    ("elements", "lines"), [((), []), ((3,), ["3 1.5 yes"]), ((1, 2), ["point 1: 1 0.5 yes", "point 2: 2 1 yes"])]
)
def test_printing_is_for_the_picked_elements(elements: tuple[int, ...], lines: list[str]) -> None:
    assert inspect("own", "source", "print(index, heat, border)", elements)["printed"] == lines


def test_a_node_whose_input_is_missing_is_still_told_about() -> None:
    lone = {"own": {"operator": "script"}}
    document = {"format": "reticula graph", "version": 1, "nodes": lone}
    found = inspect_text(Evaluator().evaluate(document, targets=[]), "own", "source", "here.a = heta", ())
    assert "no 'heta' on points" in found["error"]["plain"]
