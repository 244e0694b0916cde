"""What is set by hand in the view: names of elements and lists of places."""

from typing import Any

import pytest

from reticula.core.errors import ParameterError
from reticula.core.operators.shared.picked import MOST_PICKED, Picked, Places

PICKED = Picked("picked", [], "help")
PLACES = Places("places", [], "help", least=2)


@pytest.mark.parametrize(
    ("given", "stored"),
    [
        ([], []),
        (["A1", "a1", "00a1"], ["a1"]),
        (["ff+", "ff"], ["ff+", "ff"]),
        (["0"], ["0"]),
        (("1" * 16,), ["1" * 16]),
    ],
)
def test_names_have_one_form_and_come_once(given: Any, stored: list[str]) -> None:
    assert PICKED.check(given) == stored
    assert PICKED.check(stored) == stored


@pytest.mark.parametrize("given", ["a1", [3], ["g"], ["+"], ["1" * 17], ["a1++"], [""], {"a": 1}])
def test_what_is_no_name_is_refused(given: Any) -> None:
    with pytest.raises(ParameterError, match="picked: "):
        PICKED.check(given)


def test_too_many_are_refused() -> None:
    with pytest.raises(ParameterError, match="up to 100,000 element names"):
        PICKED.check(["a"] * (MOST_PICKED + 1))


def test_places() -> None:
    assert PLACES.check([(0, 0, 0), [1, 2.5, 3]]) == [[0, 0, 0], [1, 2.5, 3]]
    for given, message in (
        ([[0, 0, 0]], "takes at least 2 places, not 1"),
        ("here", "takes a list"),
        ([[0, 0], [1, 1]], "takes 3 numbers"),
        ([[0, 0, float("nan")]] * 2, "takes a finite number"),
    ):
        with pytest.raises(ParameterError, match=message):
            PLACES.check(given)
