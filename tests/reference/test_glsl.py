"""Functions that the OpenGL Shading Language 4.60 specification (Khronos), section 8, defines by a formula; and
Python's own `math` for those it has.
"""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core.language import evaluate_once

SMALL = st.floats(-100, 100).map(lambda x: round(x, 6))


def run(source: str, **values: float) -> float:
    return float(evaluate_once(source, "number", values))


@given(SMALL, SMALL, st.floats(0, 1))
def test_section_8_3(x: float, y: float, a: float) -> None:
    assert run("mix(x, y, a)", x=x, y=y, a=a) == pytest.approx(x * (1 - a) + y * a)
    assert run("fract(x)", x=x) == pytest.approx(x - math.floor(x))
    y = y or 1.0
    apart = abs(run("mod(x, y)", x=x, y=y) - (x - y * math.floor(x / y)))
    assert min(apart, abs(abs(y) - apart)) < 1e-9, "the same, or one rounding of x / y across a whole number"
    assert run("step(x, y)", x=x, y=y) == (0.0 if y < x else 1.0)
    low, high = min(x, y) - 1, max(x, y) + 1
    assert run("clamp(a, low, high)", a=a, low=low, high=high) == min(max(a, low), high)
    t = min(max((a - low) / (high - low), 0), 1)
    assert run("smoothstep(low, high, a)", a=a, low=low, high=high) == pytest.approx(t * t * (3 - 2 * t))
    assert run("sign(x)", x=x) == (x > 0) - (x < 0)


def test_section_8_5() -> None:
    assert evaluate_once("reflect(vec3(1, -1, 0), vec3(0, 1, 0))", "vec3") == [1, 1, 0]
    assert evaluate_once("cross(vec3(1, 0, 0), vec3(0, 1, 0))", "vec3") == [0, 0, 1]
    assert run("distance(vec2(0, 0), vec2(3, 4)) + dot(vec2(1, 2), vec2(3, 4)) + length(vec3(2, 3, 6))") == 5 + 11 + 7
    assert evaluate_once("normalize(vec3(0, 0, 9))", "vec3") == [0, 0, 1]


@given(st.floats(0.001, 0.999))
def test_python_math(x: float) -> None:
    for name in (
        "sin",
        "cos",
        "tan",
        "asin",
        "acos",
        "atan",
        "sqrt",
        "exp",
        "log",
        "floor",
        "ceil",
        "radians",
        "degrees",
    ):
        assert run(f"{name}(x)", x=x) == pytest.approx(getattr(math, name)(x), rel=1e-14), name
    assert run("atan2(x, 0.5)", x=x) == pytest.approx(math.atan2(x, 0.5))
