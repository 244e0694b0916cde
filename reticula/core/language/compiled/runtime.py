"""What compiled scripts call: small functions for one element, each the twin of what the vector back end does on
arrays.

A function that cannot go on writes to ``err`` what happened (code, where in the source, two numbers) and raises Halt;
the caller of the kernel makes words of it.
"""

from __future__ import annotations

import math

import numpy as np
from numba import types
from numba.extending import intrinsic

from reticula.core.arrays import AnyArray, Floats, Ints
from reticula.core.jit import inline
from reticula.core.language.limits import MOST_CALLS_DEEP, MOST_ITEMS

__all__ = ["CODES", "Halt"]


class Halt(Exception):
    """Ends a kernel; why stands in ``err``."""


DIVISION, ITEM, STEP, FULL, STOPPED, ITEMS, DEEP, SHORT, PLACE, LONELY = range(1, 11)
CODES = {
    DIVISION: "division by zero; guard it, e.g. a // max(b, 1)",
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
def load_now(context, array):  # type: ignore[no-untyped-def]
    """The first entry of an array of int64, read from memory each time, whatever the compiler knows about it."""

    def code(context, builder, signature, arguments):  # type: ignore[no-untyped-def]
        from numba.core import cgutils

        array_type = signature.args[0]
        data = cgutils.create_struct_proxy(array_type)(context, builder, arguments[0]).data  # type: ignore[no-untyped-call]
        return builder.load_atomic(data, "monotonic", 8)

    return types.int64(array), code


@inline
def halt(err: Ints, code: int, place: int, first: int, second: int) -> None:
    err[0], err[1], err[3], err[4] = code, place, first, second
    raise Halt


@inline
def tick(stop: Ints, err: Ints) -> None:
    """Look whether the run was stopped."""
    if load_now(stop) != 0:  # type: ignore[call-arg]
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


@inline
def grown(items: AnyArray, count: int, err: Ints, place: int) -> AnyArray:
    """A list's room, larger if it is full."""
    if count < len(items):
        return items
    if count >= MOST_ITEMS:
        halt(err, ITEMS, place, 0, 0)
    more = np.empty((len(items) + len(items) // 2 + 4, *items.shape[1:]), items.dtype)
    more[:count] = items[:count]
    return more


@inline
def median_of(items: Floats, count: int) -> float:
    if count == 0:
        return 0.0
    ranked = np.sort(items[:count])
    return 0.5 * (ranked[(count - 1) // 2] + ranked[count // 2])


# ---- curves and gradients


@inline
def response_at(table: Floats, x: float) -> float:
    last = len(table) - 1
    x = lesser(greater(x, table[0, 0]), table[last, 1])
    k = 0
    while k < last and x >= table[k, 1]:
        k += 1
    t = x - table[k, 0]
    return ((table[k, 2] * t + table[k, 3]) * t + table[k, 4]) * t + table[k, 5]


Rgba = tuple[float, float, float, float]


@inline
def gradient_at(table: Floats, x: float) -> Rgba:
    last = len(table) - 1
    if x != x:
        return np.nan, np.nan, np.nan, np.nan
    if x <= table[0, 0]:
        return table[0, 1], table[0, 2], table[0, 3], table[0, 4]
    if x >= table[last, 0]:
        return table[last, 1], table[last, 2], table[last, 3], table[last, 4]
    k = 0
    while x >= table[k + 1, 0]:
        k += 1
    t = (x - table[k, 0]) / (table[k + 1, 0] - table[k, 0])
    a, b = table[k], table[k + 1]
    return (
        a[1] + t * (b[1] - a[1]),
        a[2] + t * (b[2] - a[2]),
        a[3] + t * (b[3] - a[3]),
        a[4] + t * (b[4] - a[4]),
    )


# ---- matrices


@inline
def determinant3(*values: float) -> float:
    a, b, c, d, e, f, g, h, i = values
    return a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g)


@inline
def inverse3(*values: float) -> tuple[float, ...]:
    a, b, c, d, e, f, g, h, i = values
    det = determinant3(a, b, c, d, e, f, g, h, i)
    k = 1.0 / det if det != 0.0 else 0.0
    return (
        (e * i - f * h) * k,
        (c * h - b * i) * k,
        (b * f - c * e) * k,
        (f * g - d * i) * k,
        (a * i - c * g) * k,
        (c * d - a * f) * k,
        (d * h - e * g) * k,
        (b * g - a * h) * k,
        (a * e - b * d) * k,
    )


@inline
def _square(values: tuple[float, ...]) -> Floats:
    m = np.empty((4, 4))
    for k in range(16):
        m[k // 4, k % 4] = values[k]
    return m


@inline
def determinant4(*values: float) -> float:
    return np.linalg.det(_square(values))


@inline
def inverse4(*values: float) -> tuple[float, ...]:
    m = _square(values)
    n = np.zeros((4, 4))
    if np.linalg.det(m) != 0.0:
        n[:] = np.linalg.inv(m)
    return (
        n[0, 0],
        n[0, 1],
        n[0, 2],
        n[0, 3],
        n[1, 0],
        n[1, 1],
        n[1, 2],
        n[1, 3],
        n[2, 0],
        n[2, 1],
        n[2, 2],
        n[2, 3],
        n[3, 0],
        n[3, 1],
        n[3, 2],
        n[3, 3],
    )


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
