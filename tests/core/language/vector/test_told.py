"""Values as a script prints them."""

import numpy as np
import pytest

from reticula.core.language.vector.lists import Lists
from reticula.core.language.vector.told import told, told_plain
from tests.core.language.programs.checked import named

TWENTY = ", ".join(map(str, range(20)))


@pytest.mark.parametrize(
    ("values", "short", "text"),
    [
        (np.array([0.1, 2.0]), "number", "2"),
        (np.array([True]), "flag", "yes"),
        (np.array([[1.0, 2.5], [3.0, 4.0]]), "vec2", "(3, 4)"),
        (np.array([7, 8]), "point@", "point 8"),
        (Lists.ragged(np.array([0, 1, 3]), np.array([7, 8, 9])), "[face@]", "[face 8, face 9]"),
        (
            Lists.ragged(np.array([0, 0, 30]), np.arange(30.0)),
            "[number]",
            f"[{TWENTY}, … (30 in all)]",
        ),
    ],
)
def test_one_value_of_the_second_element(values: object, short: str, text: str) -> None:
    assert told(values, 1, named(short)) == text


@pytest.mark.parametrize(
    ("value", "text"),
    [
        (0.1 + 0.2, "0.3"),
        (-0.0, "0"),
        (False, "no"),
        ("crest", "'crest'"),
        ([1.0, 2.0, 3.0], "(1, 2, 3)"),
        ([[1.0, 0.0], [0.0, 2.0]], "(1, 0; 0, 2)"),
        (list(range(1200)), f"[{TWENTY}, … (1,200 in all)]"),
    ],
)
def test_plain_data(value: object, text: str) -> None:
    assert told_plain(value, quoted=True) == text


def test_elements_that_a_script_has_made_have_numbers_of_their_own() -> None:
    assert told_plain(4, named("face@")) == "face 4"
    assert told_plain(-2, named("face@")) == "new face 2"
