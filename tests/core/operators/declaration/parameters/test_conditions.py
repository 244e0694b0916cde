"""What values must be: each condition gives the value as it is kept, or says what is wanted."""

import math
from typing import Any

import numpy as np
import pytest

from reticula.core.operators.declaration.parameters.conditions import (
    Condition,
    Unfit,
    between,
    each_of,
    fitted,
    is_any_value,
    is_flag,
    is_free,
    is_name,
    is_number,
    is_whole,
    listed,
    one_of,
    up_to_letters,
)


@pytest.mark.parametrize(
    ("conditions", "value", "kept"),
    [
        ((is_number,), 3, 3.0),
        ((is_number,), np.float32(0.5), 0.5),
        ((is_number, between(0, 4), is_whole), 4.0, 4),
        ((is_flag,), np.True_, True),
        ((one_of(["a", "b"]),), "b", "b"),
        ((up_to_letters(3),), "abc", "abc"),
        ((is_name(optional=False),), " reef_1 ", "reef_1"),
        ((is_name(optional=True),), "", ""),
        ((is_name(optional=False), is_free("group")), "crest", "crest"),
        ((each_of(3, (is_number,)),), (1, 2, 3), [1.0, 2.0, 3.0]),
        ((listed("places", 1, 9, each_of(2, (is_number,))),), [[1, 2]], [[1.0, 2.0]]),
        ((is_any_value,), (1, 2), [1, 2]),
        ((is_any_value,), np.array([1.5, 2.0]), [1.5, 2.0]),
        ((is_any_value,), (np.float64(1.5), 2), [1.5, 2]),
    ],
)
def test_what_fits_is_kept_as_plain_data(conditions: tuple[Condition, ...], value: Any, kept: Any) -> None:
    made = fitted(value, conditions)
    assert made == kept
    assert type(made) is type(kept)


@pytest.mark.parametrize(
    ("conditions", "value", "wanted"),
    [
        ((is_number,), "3", "takes a number, not '3'"),
        ((is_number,), True, "takes a number, not True"),
        ((is_number,), math.nan, "takes a finite number"),
        ((is_number,), 10**400, "takes a finite number"),
        ((is_number, between(0, 4)), 5, "5 is outside of 0 to 4"),
        ((is_number, between(0, 4), is_whole), 1.5, "takes a whole number, not 1.5"),
        ((is_flag,), 1, "takes yes or no"),
        ((one_of(["a", "b"]),), "c", "takes one of a, b, not 'c'"),
        ((up_to_letters(3),), "abcd", "takes up to 3 letters"),
        ((is_name(optional=False),), "", "'' is not a name"),
        ((is_name(optional=True),), "1a", "'1a' is not a name"),
        ((is_free("group"),), "if", "cannot be the name of a group"),
        ((is_free("attribute"),), "if", "cannot be the name of an attribute"),
        ((each_of(3, (is_number,)),), (1, 2), "takes 3 numbers, not (1, 2)"),
        ((each_of(2, (is_number,)),), "12", "takes 2 numbers"),
        ((listed("places", 1, 2, is_number),), [], "takes at least 1 places, not 0"),
        ((listed("places", 1, 2, is_number),), [1, 2, 3], "a list of up to 2 places"),
        ((is_any_value,), [1], "2 to 4 numbers or a formula"),
        ((is_any_value,), ["a", "b"], "2 to 4 numbers or a formula"),
    ],
)
def test_what_does_not_fit_says_what_is_wanted(conditions: tuple[Condition, ...], value: Any, wanted: str) -> None:
    with pytest.raises(Unfit) as caught:
        fitted(value, conditions)
    assert wanted in str(caught.value)
