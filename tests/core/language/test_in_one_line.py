"""Formulas of several lines as one expression: they give the same."""

from __future__ import annotations

import numpy as np
import pytest

from reticula.core.errors import FormulaError
from reticula.core.language import evaluate
from reticula.core.language.in_one_line import in_one_line
from tests.core.language.studio import sheet


@pytest.mark.parametrize(
    "source",
    [
        "index * 2",
        "a = index * 2\na + 1",
        "a = index\nb = a - 2\na = b * b\na / (b * b + 1) - a",
        "a = 3\na += index\na *= a\na - index",
        "p = 2\nsum([p.position.x for p in here.points]) * p",
        "far = 0.5\nlen([q for q in here.points if q.position.x > far]) + far",
        "up = normal * 2\n(up.y if index > 2 else -up.y) + number(not index > 3)",
    ],
)
def test_it_gives_the_same(source: str) -> None:
    made = in_one_line(source)
    assert made is not None
    assert "\n" not in made
    kind = "face"
    np.testing.assert_array_equal(evaluate(made, sheet(), kind).array, evaluate(source, sheet(), kind).array)


def test_what_cannot_be_put_in_place_is_none() -> None:
    growing = "\n".join(["a = index + 1", *["a = a * a + a"] * 12, "a"])
    assert in_one_line(growing) is None


def test_a_broken_formula_is_refused() -> None:
    with pytest.raises(FormulaError):
        in_one_line("a = \na")
