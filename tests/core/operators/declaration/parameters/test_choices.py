"""Choices and kinds: the one form in which they are stored, and what is refused in words."""

from typing import Any

import pytest

from reticula.core.errors import ParameterError
from tests.core.operators.declaration.parameters.samples import BY_NAME


@pytest.mark.parametrize(
    ("name", "given", "stored"),
    [
        ("c", "b", "b"),
        ("kind", "point", "point"),
    ],
)
def test_values_have_one_stored_form(name: str, given: Any, stored: Any) -> None:
    checked = BY_NAME[name].check(given)
    assert checked == stored
    assert type(checked) is type(stored)
    assert BY_NAME[name].check(checked) == stored, "checking twice changes nothing"


@pytest.mark.parametrize(
    ("name", "given", "message"),
    [
        ("c", "z", "takes one of a, b, not 'z'"),
        ("kind", "edge", "takes one of point, face"),
    ],
)
def test_what_does_not_fit_is_refused_in_words(name: str, given: Any, message: str) -> None:
    with pytest.raises(ParameterError) as caught:
        BY_NAME[name].check(given)
    assert str(caught.value).startswith(f"{name}: ")
    assert message in str(caught.value)
    assert caught.value.details()["parameter"] == name
