"""Value wires: chains written out as formulas, formulas and scripts drawn as chains, the same values either way."""

from __future__ import annotations

import re
from typing import Any

import numpy as np
import pytest

from reticula.core.errors import FormulaError, GraphError
from reticula.core.graph import Evaluator
from reticula.core.graph.values.formula_to_nodes import formula_to_nodes, script_to_nodes
from reticula.core.graph.values.nodes_to_formula import nodes_to_formula, wires_to_formulas

WIRED: dict[str, Any] = {
    "sheet": {"operator": "grid", "parameters": {"cells": [6, 6]}},
    "fine": {"operator": "noise_value", "parameters": {"scale": 2.0, "octaves": 3}},
    "square": {"operator": "maths_value", "parameters": {"how": "*", "a": {"wire": "fine"}, "b": {"wire": "fine"}}},
    "choice": {
        "operator": "switch_value",
        "parameters": {"condition": {"wire": "test"}, "yes": {"wire": "square"}, "no": 0.0},
    },
    "test": {"operator": "compare_value", "parameters": {"a": {"wire": "fine"}, "b": 0.0}},
    "raised": {
        "operator": "displace",
        "inputs": {"geo": ["sheet"]},
        "parameters": {"value": {"wire": "choice"}, "where": {"wire": "test"}},
    },
}


def document(nodes: dict[str, Any], looking_at: str | None = None) -> dict[str, Any]:
    return {"format": "reticula graph", "version": 1, "nodes": nodes, "looking_at": looking_at}


def test_shared_values_are_written_once() -> None:
    assert nodes_to_formula(document(WIRED), "choice") == (
        "fine_value = noise((position) * 2.0, 3)\n"
        "test_value = fine_value > 0.0\n"
        "square_value = fine_value * fine_value\n"
        "square_value if test_value else 0.0"
    )


def test_a_long_chain_of_shared_values_stays_short() -> None:
    nodes: dict[str, Any] = {"n0": {"operator": "number_value"}}
    for i in range(1, 60):
        nodes[f"n{i}"] = {
            "operator": "maths_value",
            "parameters": {"how": "+", "a": {"wire": f"n{i - 1}"}, "b": {"wire": f"n{i - 1}"}},
        }
    assert len(nodes_to_formula(document(nodes), "n59").split("\n")) == 60


def test_wires_drive_any_parameter() -> None:
    nodes = {
        **WIRED,
        "many": {"operator": "number_value", "parameters": {"value": {"formula": "2 + 3"}}},
        "on": {"operator": "compare_value", "parameters": {"a": 1, "b": 0}},
        "split": {
            "operator": "extrude",
            "inputs": {"geo": ["sheet"]},
            "parameters": {"together": {"wire": "on"}, "distance": {"wire": "many"}},
        },
        "tinted": {
            "operator": "set_attribute",
            "inputs": {"geo": ["sheet"]},
            "parameters": {"value": {"wire": "square"}},
        },
    }
    done = Evaluator().evaluate(document(nodes))
    assert {name: found.state for name, found in done.nodes.items() if found.state != "done"} == {}
    by_hand = {
        **WIRED,
        "raised": {
            **WIRED["raised"],
            "parameters": {
                "value": {"formula": "noise(position * 2.0, 3) ** 2 if noise(position * 2.0, 3) > 0 else 0.0"},
                "where": "noise(position * 2.0, 3) > 0",
            },
        },
    }
    same = Evaluator().evaluate(document(by_hand))
    np.testing.assert_allclose(done.geo("raised").positions, same.geo("raised").positions, atol=1e-15)


def test_a_change_in_a_chain_runs_only_what_it_feeds() -> None:
    evaluator = Evaluator()
    evaluator.evaluate(document(WIRED))
    changed = {**WIRED, "fine": {"operator": "noise_value", "parameters": {"scale": 3.0}}}
    done = evaluator.evaluate(document(changed))
    assert done.nodes["sheet"].cached
    assert not done.nodes["raised"].cached


@pytest.mark.parametrize(
    ("change", "message"),
    [
        (
            {"fine": {"operator": "noise_value", "parameters": {"p": {"wire": "square"}}}},
            "circle: .*fine → square → fine|circle: .*square → fine → square",
        ),
        ({"fine": {"operator": "grid"}}, "makes a geometry, not a value"),
        (
            {"choice": {"operator": "switch_value", "parameters": {"yes": {"wire": "gone"}}}},
            "'gone', which does not exist",
        ),
        ({"fine": {"operator": "noise_value", "parameters": {"octaves": 99}}}, "outside of 1 to 16"),
    ],
)
def test_what_is_wrong_is_said_at_the_node_that_is_fed(change: dict[str, Any], message: str) -> None:
    done = Evaluator().evaluate(document({**WIRED, **change}))
    error = done.nodes["raised"].error
    assert error is not None
    assert error["parameter"] in ("value", "where")
    assert re.search(message, error["message"])
    assert done.nodes["sheet"].state == "done"


def test_documents_without_wires_are_left_alone() -> None:
    plain = document({"sheet": WIRED["sheet"]})
    made, troubles = wires_to_formulas(plain)
    assert made is plain
    assert troubles == {}


FORMULAS = [
    "0.3 * noise(position * 3)",
    "mix(0.1, 0.4, fraction) if position.x > 0 and not border else -0.2",
    "clamp(length(position.xz) * 2 - 1, 0, 1)",
    "random(3) * index / count + max(here.neighbours.position).y",
    "remap(position.x, -1, 1, 0, 2) // 0.3",
    "dot(normal, (0, 1, 0)) + cells(position * 4)",
    "a = position.x * 2\nb = a + a\nb * b - a",
]


@pytest.mark.parametrize("formula", FORMULAS)
def test_a_formula_drawn_and_written_again_gives_the_same(formula: str) -> None:
    nodes = {
        "sheet": WIRED["sheet"],
        "raised": {"operator": "displace", "inputs": {"geo": ["sheet"]}, "parameters": {"value": {"formula": formula}}},
    }
    drawn = formula_to_nodes(document(nodes), "raised", "value")
    wired = {**nodes, **drawn.nodes, "raised": {**nodes["raised"], "parameters": {"value": drawn.value}}}
    assert len(drawn.nodes) > 1
    first, second = (
        Evaluator().evaluate(document(nodes)).geo("raised"),
        Evaluator().evaluate(document(wired)).geo("raised"),
    )
    assert first.digest == second.digest
    text = nodes_to_formula(document(wired), drawn.value["wire"])
    again = {**nodes, "raised": {**nodes["raised"], "parameters": {"value": {"formula": text}}}}
    assert Evaluator().evaluate(document(again)).geo("raised").digest == first.digest


def test_conditions_are_drawn_too() -> None:
    nodes = {
        "sheet": WIRED["sheet"],
        "marked": {
            "operator": "group",
            "inputs": {"geo": ["sheet"]},
            "parameters": {"where": "area > 0 and index % 3 == 1"},
        },
    }
    drawn = formula_to_nodes(document(nodes), "marked", "where")
    wired = {**nodes, **drawn.nodes, "marked": {**nodes["marked"], "parameters": {"where": drawn.value}}}
    assert Evaluator().evaluate(document(wired)).geo("marked").group("face", "marked").sum() == 12


SCRIPT = """amount: number(0, 1) = 0.3
reef: geometry
d = reef.closest(position).distance
if d < 0.45 and position.x > 0:
    here.near_it = True
    lift = amount * noise(position * 2, 3)
else:
    lift = mix(0.0, d, 0.25)
    here.far_off = 1.5
lift += 0.01
here.lift = lift + random(3)
here.position = position + normal * lift
"""


def with_script(source: str, **parameters: Any) -> dict[str, Any]:
    return document(
        {
            "sheet": WIRED["sheet"],
            "ball": {"operator": "sphere"},
            "own": {
                "operator": "script",
                "inputs": {"geo": ["sheet"], "reef": ["ball"]},
                "parameters": {"source": source, **parameters},
            },
        }
    )


def test_a_script_without_loops_is_drawn_as_nodes() -> None:
    given = with_script(SCRIPT, controls={"amount": 0.7})
    drawn = script_to_nodes(given, "own")
    assert drawn.last is not None
    done = Evaluator().evaluate({**given, "nodes": {**given["nodes"], **drawn.nodes}})
    script, nodes = done.geo("own"), done.geo(drawn.last)
    for name in ("position", "lift", "near_it", "far_off"):
        assert (script.attribute("point", name) == nodes.attribute("point", name)).all()


@pytest.mark.parametrize(
    ("source", "message"),
    [
        ("for p in here.neighbours:\n    here.a = 1", "a loop cannot be drawn"),
        ("v = [1, 2]\nhere.a = sum(v)", "cannot be drawn"),
        ("remove(here)", "this line cannot be drawn"),
        ("shades: gradient = [(0, 0, 0, 0), (1, 1, 1, 1)]\nhere.a = shades(0.5)", "which has no value node"),
    ],
)
def test_what_cannot_be_drawn_is_said(source: str, message: str) -> None:
    with pytest.raises(FormulaError, match=message):
        script_to_nodes(with_script(source), "own")


def test_attributes_that_read_each_other_cannot_be_set_one_after_the_other() -> None:
    nodes = with_script("a = u\nhere.u = v\nhere.v = a")
    with pytest.raises(GraphError, match="read each other"):
        script_to_nodes(nodes, "own")
    with pytest.raises(GraphError, match="runs once"):
        script_to_nodes(with_script("here.a = 1", each="once"), "own")
    with pytest.raises(GraphError, match="holds no formula"):
        formula_to_nodes(document({"sheet": WIRED["sheet"]}), "sheet", "cells")
