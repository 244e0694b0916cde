"""The symbols: arithmetic, comparison, and, or, not, and the choice between two values."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from reticula.core.arrays import AnyArray
from reticula.core.language.functions.table import OPERATORS, Resolution, componentwise, exactly, symbol
from reticula.core.language.math_kernels import of_two
from reticula.core.language.types import FLAG, INTEGER, NUMBER, NUMERIC, TEXT, ElementOf, Type

__all__ = ["NAMES", "OPERATORS", "OVERFLOW"]

OVERFLOW = "a whole number would have more than 64 bits; work with numbers instead, e.g. 1.0 * a"

LARGEST = 2**63 - 1
SMALL = 2**31
"""Neither sums nor products of integers below this can be too large."""
SAFE = 2.0**62
"""Integers below this are certainly no overflow, however the float was rounded."""


def _divide_whole(function: Callable[..., AnyArray]) -> Callable[..., AnyArray]:
    def run(a: AnyArray, b: AnyArray) -> AnyArray:
        if b.dtype.kind == "i" and (b == 0).any():
            raise ZeroDivisionError
        return function(a, b)

    return run


def _same(types: tuple[Type, ...]) -> Resolution:
    if len(types) != 2:
        return None
    a, b = types
    if a in NUMERIC and b in NUMERIC:
        return ((INTEGER,) * 2 if a is b is INTEGER else (NUMBER,) * 2), FLAG
    return (types, FLAG) if a == b and (a in (FLAG, TEXT) or isinstance(a, ElementOf)) else None


def _choose(types: tuple[Type, ...]) -> Resolution:
    if len(types) != 3 or types[0] is not FLAG:
        return None
    if types[1] == types[2]:
        return types, types[1]
    both = componentwise(2, integers=True)(types[1:])
    return ((FLAG, *((both[1],) * 2)), both[1]) if both else None


def _where(condition: AnyArray, yes: AnyArray, no: AnyArray) -> AnyArray:
    return np.where(condition.reshape(-1, *(1,) * (yes.ndim - 1)), yes, no)


def _whole_checked(function: Callable[..., AnyArray]) -> Callable[..., AnyArray]:
    """Integers that grow beyond 64 bits raise OverflowError; small ones cannot, and cost a look at the largest."""

    def run(*values: AnyArray) -> AnyArray:
        made = function(*values)
        if made.dtype.kind != "i" or all(-SMALL < v.min(initial=0) <= v.max(initial=0) < SMALL for v in values):
            return made
        near = np.abs(function(*(value.astype(np.float64) for value in values)))
        if near.max() > SAFE and (np.abs(function(*(value.astype(object) for value in values))) > LARGEST).any():
            raise OverflowError
        return made

    return run


for _symbol, _summary, _run, _code, _whole in (
    ("+", "sum", np.add, "{0} + {1}", "added"),
    ("-", "difference", np.subtract, "{0} - {1}", "subtracted"),
    ("*", "product", np.multiply, "{0} * {1}", "multiplied"),
):
    symbol(
        _symbol,
        f"a {_symbol} b",
        _summary,
        componentwise(2, integers=True),
        _whole_checked(_run),
        _code,
        whole=f"{_whole}({{0}}, {{1}}, err, {{place}})",
        fails="integer",
    )
symbol("/", "a / b", "quotient", componentwise(2), np.divide, "{0} / {1}")
symbol("**", "a ** b", "power", componentwise(2), of_two("power"), "power({0}, {1})")
symbol(
    "//",
    "a // b",
    "quotient rounded down",
    componentwise(2, integers=True),
    _divide_whole(np.floor_divide),
    "whole_quotient({0}, {1})",
    whole="divided({0}, {1}, err, {place})",
    fails="always",
)
symbol(
    "%",
    "a % b",
    "remainder, with the sign of the divisor",
    componentwise(2, integers=True),
    _divide_whole(np.mod),
    "remainder({0}, {1})",
    whole="rest({0}, {1}, err, {place})",
    fails="always",
)
symbol("negate", "-a", "the value with its sign turned", componentwise(1, integers=True), np.negative, "-{0}")
for _symbol, _compare in (("<", np.less), ("<=", np.less_equal), (">", np.greater), (">=", np.greater_equal)):
    symbol(
        _symbol,
        f"a {_symbol} b",
        "comparison of numbers",
        exactly((("integer", "integer"), "flag"), (("number", "number"), "flag")),
        _compare,
        f"{{0}} {_symbol} {{1}}",
    )
symbol("==", "a == b", "whether two numbers, flags, texts or elements are the same", _same, np.equal, "{0} == {1}")
symbol("!=", "a != b", "whether two numbers, flags, texts or elements differ", _same, np.not_equal, "{0} != {1}")
_FLAGS = exactly((("flag", "flag"), "flag"))
symbol("and", "a and b", "both", _FLAGS, np.logical_and, "{0} and {1}")
symbol("or", "a or b", "one or both", _FLAGS, np.logical_or, "{0} or {1}")
symbol("not", "not a", "the other of yes and no", exactly((("flag",), "flag")), np.logical_not, "not {0}")
symbol("if", "a if condition else b", "one of two values", _choose, _where, "{1} if {0} else {2}")

NAMES = tuple(OPERATORS)
