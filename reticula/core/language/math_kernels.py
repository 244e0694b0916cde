"""Functions of numbers, compiled: both back ends work them out by these, so that they agree to the last bit."""

from __future__ import annotations

import math
import platform
from collections.abc import Callable

import numpy as np

from reticula.core.arrays import AnyArray, Floats, Ints
from reticula.core.jit import inline, intrinsic, kernel, parallel_kernel, prange

__all__ = ["ONE", "folded", "hypotenuse", "of_one", "of_two", "power"]

ONE = ("cbrt", "exp", "expm1", "exp2", "log", "log1p", "log2", "log10", "sin", "cos", "tan", "arcsin", "arccos") + (
    "arctan",
    "sinh",
    "cosh",
    "tanh",
    "arcsinh",
    "arccosh",
    "arctanh",
)
"""Functions of one number, as NumPy calls them, in the order of their numbers."""
TWO = ("power", "atan2", "hypot")


@intrinsic
def _unknown(context, value):  # type: ignore[no-untyped-def]  # Numba's types
    """A number of which the compiler knows nothing: it goes through an empty piece of assembly."""
    from llvmlite import ir  # type: ignore[import-untyped]  # it has no stubs
    from numba import types

    def code(context, builder, signature, arguments):  # type: ignore[no-untyped-def]  # Numba's types
        number = ir.DoubleType()
        register = "=w,0" if platform.machine() == "aarch64" else "=x,0"
        return builder.asm(ir.FunctionType(number, [number]), "", register, arguments, False)

    return types.float64(types.float64), code


@inline
def power(a: float, b: float) -> float:
    """Return a to the power b; squares are products, which is quicker.

    The compiler puts other functions in place of powers whose base or exponent it knows; here it knows neither.
    """
    return a * a if b == 2.0 else _unknown(float(a)) ** _unknown(float(b))  # type: ignore[call-arg, no-untyped-call]  # an intrinsic


@inline
def _first_ten(which: int, x: float) -> float:
    if which == 0:
        return np.cbrt(x)
    if which == 1:
        return np.exp(x)
    if which == 2:
        return np.expm1(x)
    if which == 3:
        return np.exp2(x)
    if which == 4:
        return np.log(x)
    if which == 5:
        return np.log1p(x)
    if which == 6:
        return np.log2(x)
    if which == 7:
        return np.log10(x)
    return np.sin(x) if which == 8 else np.cos(x)


@inline
def _second_ten(which: int, x: float) -> float:
    if which == 10:
        return np.tan(x)
    if which == 11:
        return np.arcsin(x)
    if which == 12:
        return np.arccos(x)
    if which == 13:
        return np.arctan(x)
    if which == 14:
        return np.sinh(x)
    if which == 15:
        return np.cosh(x)
    if which == 16:
        return np.tanh(x)
    if which == 17:
        return np.arcsinh(x)
    return np.arccosh(x) if which == 18 else np.arctanh(x)


@inline
def hypotenuse(a: float, b: float) -> float:
    """Return the root of the sum of two squares."""
    return math.hypot(a, b)


@parallel_kernel
def _one(which: int, x: Floats) -> Floats:
    out = np.empty(len(x))
    for i in prange(len(x)):
        out[i] = _first_ten(which, x[i]) if which < 10 else _second_ten(which, x[i])
    return out


@parallel_kernel
def _two(which: int, a: Floats, b: Floats) -> Floats:
    out = np.empty(len(a))
    for i in prange(len(a)):
        if which == 0:
            out[i] = power(a[i], b[i])
        elif which == 1:
            out[i] = math.atan2(a[i], b[i])
        else:
            out[i] = hypotenuse(a[i], b[i])
    return out


def of_one(name: str) -> Callable[[AnyArray], AnyArray]:
    """Return a function of an array ``(N, ...)``, component by component."""
    which = ONE.index(name)

    def run(x: AnyArray) -> AnyArray:
        flat = np.ascontiguousarray(x, np.float64)
        return _one(which, flat.reshape(-1)).reshape(flat.shape)

    run.__name__ = name
    return run


def of_two(name: str) -> Callable[[AnyArray, AnyArray], AnyArray]:
    """Return a function of two arrays ``(N, ...)``, component by component."""
    which = TWO.index(name)

    def run(a: AnyArray, b: AnyArray) -> AnyArray:
        first, second = np.broadcast_arrays(np.asarray(a, np.float64), np.asarray(b, np.float64))
        made = _two(which, np.ascontiguousarray(first).reshape(-1), np.ascontiguousarray(second).reshape(-1))
        return made.reshape(first.shape)

    return run


@kernel
def folded(start: Ints, values: Floats) -> Floats:
    """Return the sums of the rows of a ragged array, from the first item to the last: ``start (N + 1,)``, ``values
    (M, W)``.
    """
    out = np.zeros((len(start) - 1, values.shape[1]))
    for row in range(len(out)):
        for i in range(start[row], start[row + 1]):
            for w in range(values.shape[1]):
                out[row, w] += values[i, w]
    return out
