"""Values and selections of each element: the one form in which they are stored, and what is refused in words."""

from typing import Any

import pytest

from reticula.core.errors import ParameterError
from tests.core.operators.declaration.parameters.samples import assert_refused, assert_stored, resolved


@pytest.mark.parametrize(
    ("name", "given", "stored"),
    [
        ("where", {"formula": "x > 1"}, "x > 1"),
        ("w", "area", {"formula": "area"}),
    ],
)
def test_values_have_one_stored_form(name: str, given: Any, stored: Any) -> None:
    assert_stored(name, given, stored)


@pytest.mark.parametrize(
    ("name", "given", "message"),
    [
        ("where", 3, "takes a group name or a formula as text"),
        ("w", -2, "-2 is outside of -1"),
        ("d", [1, 2], "takes 3 numbers"),
    ],
)
def test_what_does_not_fit_is_refused_in_words(name: str, given: Any, message: str) -> None:
    assert_refused(name, given, message)


def test_where_and_varying_are_resolved_on_every_element() -> None:
    assert resolved("where", "").tolist() == [True, True]
    assert resolved("where", "index == 1").tolist() == [False, True]
    assert resolved("w", "index + 0.5").tolist() == [0.5, 1.5]
    assert resolved("w", 2).tolist() == [2, 2]
    assert resolved("d", [0, 0, 1]).shape == (6, 3)
    with pytest.raises(ParameterError, match="w: gives -2 at face 0; -1 is the least"):
        resolved("w", "-2 + index")
