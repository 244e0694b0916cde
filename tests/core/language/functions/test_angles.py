"""Angles beside Python's math, and identities of trigonometry."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core.language.functions.angles import NAMES
from tests.core.language.functions.check import value

INSIDE = st.floats(-1, 1)


@pytest.mark.parametrize("name", [name for name in NAMES if name not in ("atan2", "acosh")])
@given(x=st.floats(-0.99, 0.99))
def test_beside_math(name: str, x: float) -> None:
    assert value(f"{name}(x)", x=x) == pytest.approx(getattr(math, name)(x), rel=1e-12, abs=1e-12)


@given(st.floats(-10, 10), st.floats(-10, 10))
def test_direction_of_a_vector(y: float, x: float) -> None:
    assert value("atan2(y, x)", y=y, x=x) == pytest.approx(math.atan2(y, x))


@given(st.floats(1, 100))
def test_inverse_of_cosh(x: float) -> None:
    assert value("cosh(acosh(x))", x=x) == pytest.approx(x)


@given(st.floats(-5, 5), st.floats(-5, 5))
def test_sum_of_angles(a: float, b: float) -> None:
    """sin(a + b) = sin a cos b + cos a sin b."""
    assert value("sin(a + b) - (sin(a) * cos(b) + cos(a) * sin(b))", a=a, b=b) == pytest.approx(0, abs=1e-12)


def test_degrees() -> None:
    assert value("degrees(radians(x))", x=37.5) == pytest.approx(37.5)
    assert value("radians(180.0)") == pytest.approx(math.pi)
