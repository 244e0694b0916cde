"""Noise, random numbers, nearest places and rays: the formula that each writes."""

from typing import Any

import pytest

from reticula.core.operators import OPERATORS
from tests.core.operators.values.writing import written

WRITTEN: list[tuple[str, dict[str, Any], str]] = [
    ("noise_value", {"scale": 2, "octaves": 3}, "noise((position) * 2, 3)"),
    ("noise_value", {"how": "cells", "octaves": 3}, "cells((position) * 3.0)"),
    ("random_value", {"seed": 4, "key": "piece"}, "random(4, piece)"),
    ("nearest_value", {"field": "heat", "reach": 2}, "source.closest((position), 2).heat"),
    ("picture_value", {"uv": {"formula": "position.xz"}, "part": "w"}, "source.at((position.xz)).w"),
    ("picture_value", {"uv": [0.5, 0.25], "part": "all"}, "source.at((0.5, 0.25))"),
    ("ray_value", {"direction": [0, 1, 0], "field": "found"}, "source.ray((position), (0, 1, 0), 1000000.0).found"),
]


def test_all_of_the_file_are_tried() -> None:
    here = {
        name for name, entry in OPERATORS.items() if entry.writes and entry.writes.__module__.endswith("values.places")
    }
    assert {name for name, _, _ in WRITTEN} == here


@pytest.mark.parametrize(("name", "parameters", "wanted"), WRITTEN)
def test_what_it_writes(name: str, parameters: dict[str, Any], wanted: str) -> None:
    assert written(name, parameters) == wanted
