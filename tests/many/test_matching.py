"""Formulas over variants."""

from __future__ import annotations

from typing import Any

import pytest

from reticula.core.errors import FormulaError
from reticula.many.matching import held

ROWS: list[dict[str, Any]] = [
    {"lift": 0.1, "tile.cells": 3, "closed": True, "material": "clay", "volume": 0.002},
    {"lift": 0.2, "tile.cells": 5, "closed": False, "material": "lime", "volume": None},
    {"lift": 0.3, "tile.cells": 7, "closed": True, "material": "clay", "volume": 0.004},
]


@pytest.mark.parametrize(
    ("where", "expected"),
    [
        ("lift > 0.15", [False, True, True]),
        ("tile_cells == 5 or volume > 0.003", [False, True, True]),
        ("closed and lift < 0.2", [True, False, False]),
        ("material == 'clay'", [True, False, True]),
        ("volume < 1", [True, False, True]),
        ("index == 0", [True, False, False]),
    ],
)
def test_values_and_numbers_are_read_by_name(where: str, expected: list[bool]) -> None:
    assert held(ROWS, where).tolist() == expected


def test_what_is_no_column_is_said() -> None:
    with pytest.raises(FormulaError, match="lfit"):
        held(ROWS, "lfit > 1")


def test_no_rows_have_no_matches() -> None:
    assert held([], "1 > 0").tolist() == []
