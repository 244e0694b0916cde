"""Angles: circular and hyperbolic functions. Angles are in radians."""

from __future__ import annotations

import numpy as np

from reticula.core.language.functions.table import FUNCTIONS, MATH, componentwise, function

__all__ = ["NAMES"]

_before = set(FUNCTIONS)
for _name, _summary, _run, _example in (
    ("sin", "sine of an angle in radians", np.sin, "sin(pi / 2) == 1"),
    ("cos", "cosine of an angle in radians", np.cos, "cos(pi) == -1"),
    ("tan", "tangent of an angle in radians", np.tan, "tan(pi / 4) == 1"),
    ("asin", "angle in radians whose sine is x", np.arcsin, "asin(1) == pi / 2"),
    ("acos", "angle in radians whose cosine is x", np.arccos, "acos(-1) == pi"),
    ("atan", "angle in radians whose tangent is x", np.arctan, "atan(1) == pi / 4"),
    ("sinh", "hyperbolic sine", np.sinh, "sinh(0) == 0"),
    ("cosh", "hyperbolic cosine", np.cosh, "cosh(0) == 1"),
    ("tanh", "hyperbolic tangent", np.tanh, "tanh(0) == 0"),
    ("asinh", "inverse hyperbolic sine", np.arcsinh, "asinh(0) == 0"),
    ("acosh", "inverse hyperbolic cosine", np.arccosh, "acosh(1) == 0"),
    ("atanh", "inverse hyperbolic tangent", np.arctanh, "atanh(0) == 0"),
):
    function(f"{_name}(x)", _summary, componentwise(1), _run, f"np.{_run.__name__}({{0}})", _example, MATH)
function(
    "atan2(y, x)",
    "angle in radians of the direction (x, y)",
    componentwise(2),
    np.arctan2,
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
