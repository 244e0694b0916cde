"""Numbers, vectors, parts and attributes: the formula that each writes."""

from typing import Any

import pytest

from reticula.core.operators import OPERATORS
from tests.core.operators.values.writing import written

WRITTEN: list[tuple[str, dict[str, Any], str]] = [
    ("number_value", {"value": 2.5}, "2.5"),
    ("vector_value", {"x": 1, "y": {"formula": "cover"}, "z": -3}, "vec3(1, (cover), (-3))"),
    ("component_value", {"v": [1, 2, 3], "part": "xz"}, "(1, 2, 3).xz"),
    ("attribute_value", {"name": "mean(here.neighbours.cover)"}, "mean(here.neighbours.cover)"),
    ("index_value", {"what": "fraction"}, "fraction"),
]


def test_all_of_the_file_are_tried() -> None:
    here = {
        name for name, entry in OPERATORS.items() if entry.writes and entry.writes.__module__.endswith("values.numbers")
    }
    assert {name for name, _, _ in WRITTEN} == here


@pytest.mark.parametrize(("name", "parameters", "wanted"), WRITTEN)
def test_what_it_writes(name: str, parameters: dict[str, Any], wanted: str) -> None:
    assert written(name, parameters) == wanted
