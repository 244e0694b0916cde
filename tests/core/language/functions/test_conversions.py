"""From one type to another."""

import pytest

from reticula.core.errors import FormulaError
from tests.core.language.functions.check import value


@pytest.mark.parametrize(
    ("text", "made"),
    [
        ("vec3(2)", [2, 2, 2]),
        ("vec2(1, 2)", [1, 2]),
        ("vec3((1, 2), 3)", [1, 2, 3]),
        ("vec4(1, (2, 3), 4)", [1, 2, 3, 4]),
        ("vec4((1, 2), (3, 4))", [1, 2, 3, 4]),
    ],
)
def test_vectors_from_parts(text: str, made: list[float]) -> None:
    assert value(text).tolist() == made


@pytest.mark.parametrize("text", ["vec3(1, 2)", "vec2(1, 2, 3)", "vec3('a')", "vec3(True)", "integer((1, 2))"])
def test_parts_that_do_not_add_up(text: str) -> None:
    with pytest.raises(FormulaError):
        value(text)


@pytest.mark.parametrize(
    ("x", "whole"), [(2.9, 2), (-2.9, -2), (True, 1), (False, 0), (7, 7), (1e300, 2**62), (-1e300, -(2**62))]
)
def test_whole_numbers_lose_their_fraction(x: object, whole: int) -> None:
    assert value("integer(x)", x=x) == whole


def test_numbers_of_flags() -> None:
    assert value("number(3 > 2) + number(2 > 3)") == 1
