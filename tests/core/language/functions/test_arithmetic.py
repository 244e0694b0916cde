"""Numbers to numbers, beside Python and the definitions of GLSL 4.60, section 8.3."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.language.functions.check import value

NUMBER = st.floats(-100, 100)


@pytest.mark.parametrize("name", ["floor", "ceil", "trunc", "exp", "expm1"])
@given(x=NUMBER)
def test_beside_math(name: str, x: float) -> None:
    assert value(f"{name}(x)", x=x) == pytest.approx(getattr(math, name)(x))


@pytest.mark.parametrize("name", ["sqrt", "log", "log2", "log10", "log1p"])
@given(x=st.floats(0.001, 1e6))
def test_beside_math_above_zero(name: str, x: float) -> None:
    assert value(f"{name}(x)", x=x) == pytest.approx(getattr(math, name)(x))


@given(NUMBER)
def test_rounding_goes_to_the_even_one(x: float) -> None:
    assert value("round(x)", x=x) == round(x)
    assert [float(value("round(x)", x=half)) for half in (0.5, 1.5, 2.5, -0.5)] == [0, 2, 2, 0]


@given(NUMBER, NUMBER, st.floats(0, 1))
def test_definitions(x: float, y: float, t: float) -> None:
    assert value("fract(x)", x=x) == pytest.approx(x - math.floor(x))
    assert value("mix(x, y, t)", x=x, y=y, t=t) == pytest.approx(x * (1 - t) + y * t)
    assert value("step(x, y)", x=x, y=y) == (0 if y < x else 1)
    low, high = sorted((x, y))
    assert value("clamp(t, a, b)", t=t, a=low, b=high) == min(max(t, low), high)


@given(st.floats(0, 1))
def test_smoothstep_is_the_cubic(t: float) -> None:
    assert value("smoothstep(0, 4, x)", x=4 * t) == pytest.approx(t * t * (3 - 2 * t))
    assert value("smoothstep(0, 4, x) + smoothstep(0, 4, 4 - x)", x=4 * t) == pytest.approx(1)


@pytest.mark.parametrize(("x", "moved"), [(-5, 1), (0, 1), (5, 2), (10, 3), (99, 3)])
def test_remap_stays_inside_its_range(x: float, moved: float) -> None:
    assert value("remap(x, 0, 10, 1, 3)", x=x) == moved


def test_whole_numbers_stay_whole() -> None:
    for text in ("abs(-3)", "min(2, 3)", "clamp(5, 0, 2)", "sign(-4)"):
        assert value(text).dtype.kind == "i", text
