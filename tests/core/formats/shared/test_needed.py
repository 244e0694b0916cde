"""What is said when a library of a format is not installed."""

import pytest

from reticula.core.errors import FormatError
from reticula.core.formats.shared.needed import library, said


def test_a_missing_library_is_named_with_what_to_do() -> None:
    with pytest.raises(FormatError, match=r"needs nothing-like-it; install it with: pip install 'reticula\[formats\]'"):
        library("nothing_like_it", "nothing-like-it")


def test_one_that_is_here_is_given() -> None:
    assert library("json", "json").dumps([1]) == "[1]"


def test_what_a_library_says_is_one_short_line() -> None:
    assert said(ValueError("first\nthe cause")) == "the cause"
    assert said(ValueError("x" * 900)) == "x" * 200
    assert said(KeyError()) == "KeyError"

    class Unreadable(Exception):
        def __str__(self) -> str:
            return b"\x80".decode()

    assert said(Unreadable()) == "Unreadable"
