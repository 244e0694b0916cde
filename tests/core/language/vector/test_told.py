"""Values as a script prints them."""

import numpy as np
import pytest

from reticula.core.language.vector.lists import Lists
from reticula.core.language.vector.told import told
from tests.core.language.programs.checked import named


@pytest.mark.parametrize(
    ("values", "short", "text"),
    [
        (np.array([0.1, 2.0]), "number", "2"),
        (np.array([True]), "flag", "yes"),
        (np.array([[1.0, 2.5], [3.0, 4.0]]), "vec2", "(3, 4)"),
        (np.array([7, 8]), "point@", "point 8"),
        (Lists.ragged(np.array([0, 1, 3]), np.array([7, 8, 9])), "[face@]", "[face 8, face 9]"),
        (Lists.ragged(np.array([0, 0, 30]), np.arange(30.0)), "[number]", f"[{', '.join(map(str, range(20)))}, …]"),
    ],
)
def test_one_value_of_the_second_element(values: object, short: str, text: str) -> None:
    assert told(values, 1, named(short)) == text
