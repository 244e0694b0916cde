"""Names of groups, attributes and shapes: the one form in which they are stored, and what is refused in words."""

from typing import Any

import pytest

from reticula.core.errors import ParameterError
from tests.core.operators.declaration.parameters.samples import BY_NAME


@pytest.mark.parametrize(
    ("name", "given", "stored"),
    [
        ("g", " crest ", "crest"),
        ("a", "höhe_2", "höhe_2"),
        ("names", "a,  b*", "a b*"),
        ("s", "reef.obj", "reef.obj"),
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
        ("g", "here", "'here' has a meaning of its own"),
        ("g", "a b", "'a b' is not a name"),
        ("g", "", "'' is not a name"),
        ("a", 3, "takes a name, not 3"),
        ("a", "x" * 65, "is not a name"),
        ("names", "  ", "takes at least one name"),
        ("s", "a\0b", "takes the name of a shape"),
    ],
)
def test_what_does_not_fit_is_refused_in_words(name: str, given: Any, message: str) -> None:
    with pytest.raises(ParameterError) as caught:
        BY_NAME[name].check(given)
    assert str(caught.value).startswith(f"{name}: ")
    assert message in str(caught.value)
    assert caught.value.details()["parameter"] == name
