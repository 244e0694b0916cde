"""Response curves and gradients at one number, and at arrays of them: the same for both back ends."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Floats
from reticula.core.jit import inline, kernel

__all__ = ["gradient_at", "gradients", "response_at", "responses"]


@inline
def response_at(table: Floats, x: float) -> float:
    last = len(table) - 1
    if x < table[0, 0]:
        x = table[0, 0]
    elif x > table[last, 1]:
        x = table[last, 1]
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


@kernel
def responses(table: Floats, at: Floats) -> Floats:
    """Return the values ``(N,)`` of a response curve, given by its pieces, at ``at (N,)``."""
    out = np.empty(len(at))
    for i in range(len(at)):
        out[i] = response_at(table, at[i])
    return out


@kernel
def gradients(table: Floats, at: Floats) -> Floats:
    """Return the colours ``(N, 4)`` of a gradient, given by its stops, at ``at (N,)``."""
    out = np.empty((len(at), 4))
    for i in range(len(at)):
        out[i, 0], out[i, 1], out[i, 2], out[i, 3] = gradient_at(table, at[i])
    return out
