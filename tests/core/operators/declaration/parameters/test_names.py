"""Names of groups, attributes and shapes: the one form in which they are stored, and what is refused in words."""

from typing import Any

import pytest

from tests.core.operators.declaration.parameters.samples import assert_refused, assert_stored


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
    assert_stored(name, given, stored)


@pytest.mark.parametrize(
    ("name", "given", "message"),
    [
        ("g", "here", "'here' is a word of the language"),
        ("g", "a b", "'a b' is not a name"),
        ("g", "", "'' is not a name"),
        ("a", 3, "takes a name, not 3"),
        ("a", "x" * 65, "is not a name"),
        ("names", "  ", "takes at least one name"),
        ("s", "a\0b", "takes the name of a shape"),
    ],
)
def test_what_does_not_fit_is_refused_in_words(name: str, given: Any, message: str) -> None:
    assert_refused(name, given, message)
