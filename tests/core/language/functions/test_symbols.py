"""Symbols: whole and broken numbers, division as Python has it, comparison of what is alike."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core.errors import FormulaError
from tests.core.language.functions.check import value

WHOLE = st.integers(-1000, 1000)
NUMBER = st.floats(-1000, 1000)


@pytest.mark.parametrize("symbol", ["+", "-", "*"])
@given(a=WHOLE, b=WHOLE)
def test_whole_numbers_stay_whole(symbol: str, a: int, b: int) -> None:
    made = value(f"a {symbol} b", a=a, b=b)
    assert made == eval(f"{a} {symbol} ({b})")
    assert made.dtype.kind == "i"


@given(WHOLE, WHOLE.filter(bool))
def test_division_is_python_s(a: int, b: int) -> None:
    assert value("a // b", a=a, b=b) == a // b
    assert value("a % b", a=a, b=b) == a % b
    assert value("a / b", a=a, b=b) == a / b
    assert value("a / b", a=a, b=b).dtype.kind == "f"


@pytest.mark.parametrize("symbol", ["<", "<=", ">", ">=", "==", "!="])
@given(a=NUMBER, b=NUMBER)
def test_comparisons(symbol: str, a: float, b: float) -> None:
    assert bool(value(f"a {symbol} b", a=a, b=b)) == eval(f"{a!r} {symbol} ({b!r})")


@pytest.mark.parametrize(
    ("text", "holds"),
    [
        ("'a' == 'a'", True),
        ("'a' != 'b'", True),
        ("True == (2 > 1)", True),
        ("1 == 1.0", True),
        ("not True or True and False", False),
        ("2 ** 3 ** 2 == 512", True),
        ("-2 ** 2 == -4", True),
    ],
)
def test_what_is_alike_and_what_binds_closer(text: str, holds: bool) -> None:
    assert bool(value(text)) == holds


@pytest.mark.parametrize("text", ["'a' < 'b'", "1 == 'a'", "True + 1", "not 1", "1 and 2", "'a' + 'b'", "(1, 2) < 3"])
def test_what_is_not_alike_is_refused(text: str) -> None:
    with pytest.raises(FormulaError):
        value(text)
