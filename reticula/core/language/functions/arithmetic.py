"""Numbers to numbers: roots, powers, rounding, limits, ranges."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray
from reticula.core.language.functions.table import FUNCTIONS, GLSL, MATH, componentwise, function
from reticula.core.language.math_kernels import of_one, of_two

__all__ = ["NAMES"]


def _smoothstep(low: AnyArray, high: AnyArray, x: AnyArray) -> AnyArray:
    t = np.clip((x - low) / (high - low), 0.0, 1.0)
    return t * t * (3.0 - 2.0 * t)


def _remap(x: AnyArray, a: AnyArray, b: AnyArray, c: AnyArray, d: AnyArray) -> AnyArray:
    return c + np.clip((x - a) / (b - a), 0.0, 1.0) * (d - c)


def _rescale(x: AnyArray, a: AnyArray, b: AnyArray, c: AnyArray, d: AnyArray) -> AnyArray:
    return c + (x - a) / (b - a) * (d - c)


_before = set(FUNCTIONS)
_one, _two, _three = componentwise(1), componentwise(2), componentwise(3)
_whole_one, _whole_two = componentwise(1, integers=True), componentwise(2, integers=True)
for _usage, _summary, _run, _code, _example, _source in (
    ("sqrt(x)", "square root", np.sqrt, "np.sqrt({0})", "sqrt(9) == 3", MATH),
    ("cbrt(x)", "cube root", of_one("cbrt"), "np.cbrt({0})", "cbrt(-8) == -2", MATH),
    ("inversesqrt(x)", "1 / sqrt(x)", lambda x: 1.0 / np.sqrt(x), "1.0 / np.sqrt({0})", "inversesqrt(4) == 0.5", GLSL),
    ("exp(x)", "e to the power x", of_one("exp"), "np.exp({0})", "exp(0) == 1", MATH),
    ("expm1(x)", "exp(x) - 1, exact for small x", of_one("expm1"), "np.expm1({0})", "expm1(0) == 0", MATH),
    ("exp2(x)", "2 to the power x", of_one("exp2"), "np.exp2({0})", "exp2(3) == 8", GLSL),
    ("log(x)", "natural logarithm", of_one("log"), "np.log({0})", "log(e) == 1", MATH),
    ("log1p(x)", "log(1 + x), exact for small x", of_one("log1p"), "np.log1p({0})", "log1p(0) == 0", MATH),
    ("log2(x)", "logarithm to base 2", of_one("log2"), "np.log2({0})", "log2(8) == 3", MATH),
    ("log10(x)", "logarithm to base 10", of_one("log10"), "np.log10({0})", "log10(1000) == 3", MATH),
    ("floor(x)", "largest whole number not above x", np.floor, "np.floor({0})", "floor(-1.5) == -2", GLSL),
    ("ceil(x)", "smallest whole number not below x", np.ceil, "np.ceil({0})", "ceil(1.2) == 2", GLSL),
    ("trunc(x)", "x without its fraction", np.trunc, "np.trunc({0})", "trunc(-1.5) == -1", GLSL),
    (
        "round(x)",
        "nearest whole number, halves to the even one",
        np.rint,
        "np.rint({0})",
        "round(2.5) == 2",
        "Python, round",
    ),
    ("fract(x)", "x - floor(x)", lambda x: x - np.floor(x), "{0} - np.floor({0})", "fract(2.25) == 0.25", GLSL),
):
    function(_usage, _summary, _one, _run, _code, _example, _source)
function("abs(x)", "size without sign", _whole_one, np.abs, "abs({0})", "abs(-2.5) == 2.5", GLSL)
function("sign(x)", "-1, 0 or 1", _whole_one, np.sign, "np.sign({0})", "sign(-7) == -1", GLSL)
function(
    "min(a, b)",
    "the smaller, component by component",
    _whole_two,
    np.minimum,
    "lesser({0}, {1})",
    "min(2, 3) == 2",
    GLSL,
)
function(
    "max(a, b)",
    "the larger, component by component",
    _whole_two,
    np.maximum,
    "greater({0}, {1})",
    "max(2, 3) == 3",
    GLSL,
)
function("pow(a, b)", "a to the power b", _two, of_two("power"), "power({0}, {1})", "pow(2, 3) == 8", MATH)
function("mod(a, b)", "remainder, with the sign of b", _two, np.mod, "remainder({0}, {1})", "mod(-1, 4) == 3", GLSL)
function("hypot(a, b)", "sqrt(a * a + b * b)", _two, of_two("hypot"), "hypotenuse({0}, {1})", "hypot(3, 4) == 5", MATH)
function(
    "copysign(a, b)",
    "the size of a with the sign of b",
    _two,
    np.copysign,
    "np.copysign({0}, {1})",
    "copysign(3, -1) == -3",
    MATH,
)
function(
    "clamp(x, low, high)",
    "x kept within low and high",
    componentwise(3, integers=True),
    lambda x, a, b: np.minimum(np.maximum(x, a), b),
    "lesser(greater({0}, {1}), {2})",
    "clamp(5, 0, 2) == 2",
    GLSL,
)
function(
    "mix(a, b, t)",
    "a where t is 0, b where t is 1",
    _three,
    lambda a, b, t: a * (1.0 - t) + b * t,
    "{0} * (1.0 - {2}) + {1} * {2}",
    "mix(2, 4, 0.5) == 3",
    GLSL,
)
function(
    "step(edge, x)",
    "0 below the edge, else 1",
    _two,
    lambda edge, x: np.where(x < edge, 0.0, 1.0),
    "0.0 if {1} < {0} else 1.0",
    "step(1, 0.5) == 0",
    GLSL,
)
function(
    "smoothstep(low, high, x)",
    "0 to 1 without corners",
    _three,
    _smoothstep,
    "smooth_rise({0}, {1}, {2})",
    "smoothstep(0, 4, 2) == 0.5",
    GLSL,
)
function(
    "remap(x, low, high, to_low, to_high)",
    "x moved from one range to another, kept inside it",
    componentwise(5),
    _remap,
    "{3} + clamp01(({0} - {1}) / ({2} - {1})) * ({4} - {3})",
    "remap(5, 0, 10, 1, 3) == 2",
)
function(
    "rescale(x, low, high, to_low, to_high)",
    "x moved from one range to another, and as far beyond it as it was beyond the first",
    componentwise(5),
    _rescale,
    "{3} + ({0} - {1}) / ({2} - {1}) * ({4} - {3})",
    "rescale(20, 0, 10, 1, 3) == 5",
)

NAMES = tuple(name for name in FUNCTIONS if name not in _before)
