"""Maths, comparing, mixing, remapping, choosing: the formula that each writes."""

from typing import Any

import pytest

from reticula.core.operators import OPERATORS
from tests.core.operators.values.writing import written

WRITTEN: list[tuple[str, dict[str, Any], str]] = [
    ("maths_value", {"how": "*", "a": 2, "b": {"formula": "cover + 1"}}, "2 * (cover + 1)"),
    ("maths_value", {"how": "sin", "a": 2}, "sin(2)"),
    ("maths_value", {"how": "clamp", "a": {"formula": "cover"}, "b": 0.2, "c": 0.4}, "clamp((cover), 0.2, 0.4)"),
    ("compare_value", {"how": "<=", "a": {"formula": "cover"}, "b": 0.5}, "(cover) <= 0.5"),
    ("compare_value", {"how": "not", "a": {"formula": "border"}}, "not (border)"),
    ("mix_value", {"a": 1, "b": 3, "t": {"formula": "cover"}}, "mix(1, 3, (cover))"),
    ("remap_value", {"x": {"formula": "cover"}}, "remap((cover), 0.0, 1.0, 0.0, 1.0)"),
    ("remap_value", {"x": 3, "inside": False}, "rescale(3, 0.0, 1.0, 0.0, 1.0)"),
    ("switch_value", {"condition": {"formula": "border"}, "yes": 1, "no": 0}, "1 if (border) else 0"),
    (
        "formula_value",
        {"formula": {"formula": "abs(a) + b * cover"}, "a": -2, "b": 3},
        "f_value_a = (-2)\nf_value_b = 3\n(abs(f_value_a) + f_value_b * cover)",
    ),
]


def test_all_of_the_file_are_tried() -> None:
    here = {
        name for name, entry in OPERATORS.items() if entry.writes and entry.writes.__module__.endswith("values.maths")
    }
    assert {name for name, _, _ in WRITTEN} == here


@pytest.mark.parametrize(("name", "parameters", "wanted"), WRITTEN)
def test_what_it_writes(name: str, parameters: dict[str, Any], wanted: str) -> None:
    assert written(name, parameters) == wanted
