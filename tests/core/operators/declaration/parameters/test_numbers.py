"""Numbers, whole numbers, vectors and toggles: the one form in which they are stored, and what is refused in words."""

from typing import Any

import numpy as np
import pytest

from reticula.core.errors import ParameterError
from tests.core.operators.declaration.parameters.samples import assert_refused, assert_stored, resolved


@pytest.mark.parametrize(
    ("name", "given", "stored"),
    [
        ("n", 2, 2.0),
        ("n", np.float64(3), 3.0),
        ("n", "a * 2", {"formula": "a * 2"}),
        ("n", {"formula": "a"}, {"formula": "a"}),
        ("i", 4.0, 4),
        ("v", (1, 2), [1.0, 2.0]),
        ("v", np.array([3.0, 4.0]), [3.0, 4.0]),
        ("v", "vec2(1)", {"formula": "vec2(1)"}),
        ("t", np.bool_(False), False),
    ],
)
def test_values_have_one_stored_form(name: str, given: Any, stored: Any) -> None:
    assert_stored(name, given, stored)


@pytest.mark.parametrize(
    ("name", "given", "message"),
    [
        ("n", 11, "11 is outside of 0 to 10"),
        ("n", None, "takes a number, not None"),
        ("n", True, "takes a number, not True"),
        ("n", float("inf"), "takes a finite number"),
        ("n", {"formula": 3}, "a formula is a text"),
        ("n", {"text": "a"}, "takes a number"),
        ("i", 0, "0 is outside of 1"),
        ("i", 2.5, "takes a whole number, not 2.5"),
        ("v", [1], "takes 2 numbers"),
        ("v", [1, -2], "-2 is outside"),
        ("v", 3, "takes 2 numbers, not 3"),
        ("t", "yes", "takes yes or no"),
    ],
)
def test_what_does_not_fit_is_refused_in_words(name: str, given: Any, message: str) -> None:
    assert_refused(name, given, message)


def test_formulas_are_resolved_with_dials_and_checked_again() -> None:
    assert resolved("n", "height * 2", height=1.5) == 3.0
    assert resolved("i", "4 // 2") == 2
    assert resolved("v", "vec2(height, 1)", height=7) == [7.0, 1.0]
    for name, formula, message in (
        ("n", "height * 20", "30 is outside of 0 to 10"),
        ("i", "1.5", "an integer is wanted"),
        ("n", "size", "there is no 'size'"),
    ):
        with pytest.raises(ParameterError, match=message):
            resolved(name, formula, height=1.5)
