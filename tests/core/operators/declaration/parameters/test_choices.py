"""Choices and kinds: the one form in which they are stored, and what is refused in words."""

from typing import Any

import pytest

from tests.core.operators.declaration.parameters.samples import assert_refused, assert_stored


@pytest.mark.parametrize(
    ("name", "given", "stored"),
    [
        ("c", "b", "b"),
        ("kind", "point", "point"),
    ],
)
def test_values_have_one_stored_form(name: str, given: Any, stored: Any) -> None:
    assert_stored(name, given, stored)


@pytest.mark.parametrize(
    ("name", "given", "message"),
    [
        ("c", "z", "takes one of a, b, not 'z'"),
        ("kind", "edge", "takes one of point, face"),
    ],
)
def test_what_does_not_fit_is_refused_in_words(name: str, given: Any, message: str) -> None:
    assert_refused(name, given, message)
