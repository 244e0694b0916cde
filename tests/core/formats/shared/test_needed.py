"""What is said when a library of a format is not installed."""

import pytest

from reticula.core.errors import FormatError
from reticula.core.formats.shared.needed import library


def test_a_missing_library_is_named_with_what_to_do() -> None:
    with pytest.raises(FormatError, match=r"needs nothing-like-it; install it with: pip install 'reticula\[formats\]'"):
        library("nothing_like_it", "nothing-like-it")


def test_one_that_is_here_is_given() -> None:
    assert library("json", "json").dumps([1]) == "[1]"
