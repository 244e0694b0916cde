"""Angles: circular and hyperbolic functions. Angles are in radians."""

from __future__ import annotations

import numpy as np

from reticula.core.language.functions.table import FUNCTIONS, MATH, componentwise, function
from reticula.core.language.math_kernels import of_one, of_two

__all__ = ["NAMES"]

_before = set(FUNCTIONS)
for _name, _summary, _run, _example in (
    ("sin", "sine of an angle in radians", "sin", "sin(pi / 2) == 1"),
    ("cos", "cosine of an angle in radians", "cos", "cos(pi) == -1"),
    ("tan", "tangent of an angle in radians", "tan", "tan(pi / 4) == 1"),
    ("asin", "angle in radians whose sine is x", "arcsin", "asin(1) == pi / 2"),
    ("acos", "angle in radians whose cosine is x", "arccos", "acos(-1) == pi"),
    ("atan", "angle in radians whose tangent is x", "arctan", "atan(1) == pi / 4"),
    ("sinh", "hyperbolic sine", "sinh", "sinh(0) == 0"),
    ("cosh", "hyperbolic cosine", "cosh", "cosh(0) == 1"),
    ("tanh", "hyperbolic tangent", "tanh", "tanh(0) == 0"),
    ("asinh", "inverse hyperbolic sine", "arcsinh", "asinh(0) == 0"),
    ("acosh", "inverse hyperbolic cosine", "arccosh", "acosh(1) == 0"),
    ("atanh", "inverse hyperbolic tangent", "arctanh", "atanh(0) == 0"),
):
    function(f"{_name}(x)", _summary, componentwise(1), of_one(_run), f"np.{_run}({{0}})", _example, MATH)
function(
    "atan2(y, x)",
    "angle in radians of the direction (x, y)",
    componentwise(2),
    of_two("atan2"),
    "math.atan2({0}, {1})",
    "atan2(1, 0) == pi / 2",
    MATH,
)
function(
    "radians(x)", "degrees to radians", componentwise(1), np.radians, "np.radians({0})", "radians(180) == pi", MATH
)
function(
    "degrees(x)", "radians to degrees", componentwise(1), np.degrees, "np.degrees({0})", "degrees(pi) == 180", MATH
)

NAMES = tuple(name for name in FUNCTIONS if name not in _before)
