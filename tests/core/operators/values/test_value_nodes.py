"""Every value node writes what it says, and a chain of them is the formula."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from reticula.core.errors import ParameterError
from reticula.core.graph import Evaluator
from reticula.core.graph.values.nodes_to_formula import nodes_to_formula
from reticula.core.language import evaluate
from reticula.core.operators import OPERATORS
from tests.core.language.studio import reef, sheet

VALUE_NODES = [entry for entry in OPERATORS.values() if entry.writes is not None]
WRITTEN: list[tuple[str, dict[str, Any], str]] = [
    ("number_value", {"value": 2.5}, "2.5"),
    ("vector_value", {"x": 1, "y": {"formula": "cover"}, "z": -3}, "vec3(1, (cover), (-3))"),
    ("component_value", {"v": [1, 2, 3], "part": "xz"}, "(1, 2, 3).xz"),
    ("attribute_value", {"name": "mean(here.neighbours.cover)"}, "mean(here.neighbours.cover)"),
    ("index_value", {"what": "fraction"}, "fraction"),
    ("maths_value", {"how": "*", "a": 2, "b": {"formula": "cover + 1"}}, "2 * (cover + 1)"),
    ("maths_value", {"how": "sin", "a": 2}, "sin(2)"),
    ("maths_value", {"how": "clamp", "a": {"formula": "cover"}, "b": 0.2, "c": 0.4}, "clamp((cover), 0.2, 0.4)"),
    ("compare_value", {"how": "<=", "a": {"formula": "cover"}, "b": 0.5}, "(cover) <= 0.5"),
    ("compare_value", {"how": "not", "a": {"formula": "border"}}, "not (border)"),
    ("mix_value", {"a": 1, "b": 3, "t": {"formula": "cover"}}, "mix(1, 3, (cover))"),
    ("remap_value", {"x": {"formula": "cover"}}, "remap((cover), 0.0, 1.0, 0.0, 1.0)"),
    ("switch_value", {"condition": {"formula": "border"}, "yes": 1, "no": 0}, "1 if (border) else 0"),
    ("noise_value", {"scale": 2, "octaves": 3}, "noise((position) * 2, 3)"),
    ("noise_value", {"how": "cells", "octaves": 3}, "cells((position) * 3.0)"),
    ("random_value", {"seed": 4, "key": "piece"}, "random(4, piece)"),
    ("nearest_value", {"field": "heat", "reach": 2}, "source.closest((position), 2).heat"),
    ("ray_value", {"direction": [0, 1, 0], "field": "found"}, "source.ray((position), (0, 1, 0), 1000000.0).found"),
    (
        "formula_value",
        {"formula": {"formula": "abs(a) + b * cover"}, "a": -2, "b": 3},
        "f_value_a = (-2)\nf_value_b = 3\n(abs(f_value_a) + f_value_b * cover)",
    ),
]


def document(nodes: dict[str, Any]) -> dict[str, Any]:
    return {"format": "reticula graph", "version": 1, "nodes": nodes}


def test_all_are_tried() -> None:
    assert {entry.name for entry in VALUE_NODES} == {name for name, _, _ in WRITTEN}
    assert len(VALUE_NODES) >= 13


@pytest.mark.parametrize(("name", "parameters", "wanted"), WRITTEN)
def test_what_it_writes(name: str, parameters: dict[str, Any], wanted: str) -> None:
    text = nodes_to_formula(document({"f": {"operator": name, "parameters": parameters}}), "f")
    assert text == wanted
    made = evaluate(text, sheet(), "point", inputs={"source": reef()})
    assert len(made.array) == 49


@pytest.mark.parametrize("entry", VALUE_NODES, ids=lambda entry: entry.name)
def test_defaults_give_a_value(entry: Any) -> None:
    text = nodes_to_formula(document({"f": {"operator": entry.name}}), "f")
    if "a * b" not in text:
        evaluate(text, sheet(), "point", inputs={"source": reef()})
    assert entry.describe()["makes_value"]


def test_operands_refuse_what_is_no_value() -> None:
    with pytest.raises(ParameterError, match="takes a number"):
        OPERATORS["mix_value"].check({"a": [1]})


def test_a_value_node_has_no_geometry() -> None:
    done = Evaluator().evaluate(document({"m": {"operator": "mix_value"}}))
    assert done.nodes["m"].state == "done"
    assert done.nodes["m"].geo is None
    assert done.nodes["m"].notes[0].text == "mix(0.0, 1.0, 0.5)"
    assert np.isfinite(done.nodes["m"].seconds)
