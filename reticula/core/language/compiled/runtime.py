"""What compiled scripts call: small functions for one element, each the twin of what the vector back end does on
arrays.

A function that cannot go on writes to ``err`` what happened (code, where in the source, two numbers) and raises Halt;
the caller of the kernel makes words of it.
"""

from __future__ import annotations

import math

import numpy as np

from reticula.core.arrays import AnyArray, Floats, Ints
from reticula.core.jit import inline, inline_making, intrinsic
from reticula.core.language.functions.symbols import OVERFLOW
from reticula.core.language.limits import MOST_CALLS_DEEP, MOST_ITEMS

__all__ = ["CODES", "Halt"]


LEAST = -(2**63)


class Halt(Exception):
    """Ends a kernel; why stands in ``err``."""


DIVISION, ITEM, STEP, FULL, STOPPED, ITEMS, DEEP, SHORT, PLACE, LONELY, LARGE = range(1, 12)
CODES = {
    DIVISION: "division by zero; guard it, e.g. a // max(b, 1)",
    LARGE: OVERFLOW,
    ITEM: "there is no item {0} in a list of {1}; ask len() first",
    STEP: "a range cannot go in steps of 0",
    ITEMS: f"a list would grow beyond {MOST_ITEMS:,} items",
    DEEP: f"functions call each other more than {MOST_CALLS_DEEP} deep; use a loop",
    SHORT: "a {chain} needs at least {1} points, and this list has {0}",
    LONELY: "an element that was just made has nothing around it yet; use a second script",
    PLACE: "a point cannot be made at a place that is not a finite number; guard the division or root",
}
"""What an error code means, in words; ``{0}`` and ``{1}`` are the two numbers."""
AT_ELEMENT = (ITEM, SHORT)
"""Codes whose words name the element."""


@intrinsic
def load_now(context, array):  # type: ignore[no-untyped-def]  # Numba's types
    """The first entry of an array of int64, read from memory each time, whatever the compiler knows about it."""
    from numba import types

    def code(context, builder, signature, arguments):  # type: ignore[no-untyped-def]  # Numba's types
        from numba.core import cgutils

        array_type = signature.args[0]
        data = cgutils.create_struct_proxy(array_type)(context, builder, arguments[0]).data  # type: ignore[no-untyped-call]  # untyped
        return builder.load_atomic(data, "monotonic", 8)

    return types.int64(array), code


@inline
def halt(err: Ints, code: int, place: int, first: int, second: int) -> None:
    err[0], err[1], err[3], err[4] = code, place, first, second
    raise Halt


@inline
def tick(stop: Ints, err: Ints) -> None:
    """Look whether the run was stopped."""
    if load_now(stop) != 0:  # type: ignore[call-arg, no-untyped-call]  # an intrinsic
        halt(err, STOPPED, 0, 0, 0)


@inline
def enter_call(depth: int, err: Ints, place: int) -> int:
    if depth >= MOST_CALLS_DEEP:
        halt(err, DEEP, place, 0, 0)
    return depth + 1


# ---- numbers


@inline
def lesser(a: float, b: float) -> float:
    return a if a <= b or a != a else b


@inline
def greater(a: float, b: float) -> float:
    return a if a >= b or a != a else b


@inline
def clamp01(x: float) -> float:
    return lesser(greater(x, 0.0), 1.0)


@inline
def smooth_rise(low: float, high: float, x: float) -> float:
    t = clamp01((x - low) / (high - low))
    return t * t * (3.0 - 2.0 * t)


@inline
def remainder(a: float, b: float) -> float:
    """Remainder with the sign of ``b``, as numpy.mod."""
    rest = np.fmod(a, b) if b != 0.0 else np.nan
    if rest == 0.0:
        return np.copysign(0.0, b)
    return rest + b if (b < 0.0) != (rest < 0.0) else rest


@inline
def whole_quotient(a: float, b: float) -> float:
    """Quotient rounded down, as numpy.floor_divide."""
    if b == 0.0:
        return a / b
    rest = np.fmod(a, b)
    quotient = (a - rest) / b
    if rest != 0.0 and (b < 0.0) != (rest < 0.0):
        quotient -= 1.0
    if quotient == 0.0:
        return np.copysign(0.0, a / b)
    below = np.floor(quotient)
    return below + 1.0 if quotient - below > 0.5 else below


@inline
def added(a: int, b: int, err: Ints, place: int) -> np.int64:
    """Sums are made without a sign, where growing too large means something to the compiler; so are the others."""
    made = np.int64(np.uint64(a) + np.uint64(b))
    if ((a ^ made) & (b ^ made)) < 0 or made == LEAST:
        halt(err, LARGE, place, 0, 0)
    return made


@inline
def subtracted(a: int, b: int, err: Ints, place: int) -> np.int64:
    made = np.int64(np.uint64(a) - np.uint64(b))
    if ((a ^ b) & (a ^ made)) < 0 or made == LEAST:
        halt(err, LARGE, place, 0, 0)
    return made


@inline
def multiplied(a: int, b: int, err: Ints, place: int) -> np.int64:
    """Near the largest integer the sign tells whether the product went beyond it; far beyond, its size does."""
    made = np.int64(np.uint64(a) * np.uint64(b))
    size = float(a) * float(b)
    if abs(size) > 2.0**62 and (abs(size) > 2.0**63 * 1.01 or (made < 0) != (size < 0.0) or made == LEAST):
        halt(err, LARGE, place, 0, 0)
    return made


@inline
def divided(a: int, b: int, err: Ints, place: int) -> int:
    if b == 0:
        halt(err, DIVISION, place, 0, 0)
    if b == -1:
        return -a
    return a // b


@inline
def rest(a: int, b: int, err: Ints, place: int) -> int:
    if b == 0:
        halt(err, DIVISION, place, 0, 0)
    if b == -1:
        return 0
    return a % b


@inline
def whole_of(x: float) -> int:
    if not math.isfinite(x):
        return 0
    return int(np.trunc(min(max(x, -(2.0**62)), 2.0**62)))


# ---- lists


@inline
def item_number(index: int, count: int, err: Ints, place: int) -> int:
    number = index + count if index < 0 else index
    if number < 0 or number >= count:
        halt(err, ITEM, place, index, count)
    return number


@inline
def span_count(begin: int, end: int, step: int, err: Ints, place: int) -> int:
    if step == 0:
        halt(err, STEP, place, 0, 0)
    if step > 0:
        return max(0, (end - begin + step - 1) // step)
    return max(0, (begin - end - step - 1) // -step)


@inline
def room_for(count: int, err: Ints, place: int) -> int:
    """How much room a list of ``count`` items gets."""
    if count > MOST_ITEMS:
        halt(err, ITEMS, place, 0, 0)
    return max(count, 0)


@inline_making
def grown(items: AnyArray, count: int, err: Ints, place: int) -> AnyArray:
    """A list's room, larger if it is full."""
    if count < len(items):
        return items
    if count >= MOST_ITEMS:
        halt(err, ITEMS, place, 0, 0)
    more = np.empty((len(items) + len(items) // 2 + 4, *items.shape[1:]), items.dtype)
    more[:count] = items[:count]
    return more


@inline_making
def median_of(items: Floats, count: int) -> float:
    if count == 0:
        return 0.0
    ranked = np.sort(items[:count])
    return 0.5 * (ranked[(count - 1) // 2] + ranked[count // 2])


# ---- curves and gradients


# ---- matrices


@inline
def turn_about(x: float, y: float, z: float, angle: float) -> tuple[float, ...]:
    long = math.sqrt(x * x + y * y + z * z)
    if long > 0.0:
        x, y, z = x / long, y / long, z / long
    c, s = math.cos(angle), math.sin(angle)
    t = 1.0 - c
    return (
        t * x * x + c,
        t * x * y - s * z,
        t * x * z + s * y,
        t * x * y + s * z,
        t * y * y + c,
        t * y * z - s * x,
        t * x * z - s * y,
        t * y * z + s * x,
        t * z * z + c,
    )


# ---- what a script makes


@inline
def record(made: Ints, number: int, room: int, err: Ints) -> int:
    """The next free row of a log; a full one halts the kernel, and it is run again with more room."""
    at = made[number]
    if at >= room:
        halt(err, FULL, number, 0, 0)
    made[number] = at + 1
    return at


@inline
def finite_place(x: float, y: float, z: float, err: Ints, place: int) -> None:
    if not (math.isfinite(x) and math.isfinite(y) and math.isfinite(z)):
        halt(err, PLACE, place, 0, 0)
