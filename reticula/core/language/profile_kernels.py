"""Response curves and gradients at one number, and at arrays of them: the same for both back ends."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Floats
from reticula.core.jit import inline, kernel

__all__ = ["gradient_at", "gradients", "response_at", "responses"]


@inline
def piece_at(table: Floats, x: float) -> int:
    """Return the last piece that begins at or before ``x``: the first one before all of them."""
    low, high = 0, len(table)
    while high - low > 1:
        middle = (low + high) // 2
        if table[middle, 0] <= x:
            low = middle
        else:
            high = middle
    return low


@inline
def channel_at(piece: Floats, x: float, channel: int) -> float:
    """Return the value of a piece; before it begins and after it ends, its value there."""
    t = x - piece[0]
    if t < 0.0:
        t = 0.0
    elif x > piece[1]:
        t = piece[1] - piece[0]
    k = 2 + 4 * channel
    return ((piece[k] * t + piece[k + 1]) * t + piece[k + 2]) * t + piece[k + 3]


@inline
def response_at(table: Floats, x: float) -> float:
    return channel_at(table[piece_at(table, x)], x, 0)


Rgba = tuple[float, float, float, float]


@inline
def gradient_at(table: Floats, x: float) -> Rgba:
    piece = table[piece_at(table, x)]
    return channel_at(piece, x, 0), channel_at(piece, x, 1), channel_at(piece, x, 2), channel_at(piece, x, 3)


@kernel
def responses(table: Floats, at: Floats) -> Floats:
    """Return the values ``(N,)`` of a response curve, given by its pieces, at ``at (N,)``."""
    out = np.empty(len(at))
    for i in range(len(at)):
        out[i] = response_at(table, at[i])
    return out


@kernel
def gradients(table: Floats, at: Floats) -> Floats:
    """Return the colours ``(N, 4)`` of a gradient, given by its pieces, at ``at (N,)``."""
    out = np.empty((len(at), 4))
    for i in range(len(at)):
        out[i, 0], out[i, 1], out[i, 2], out[i, 3] = gradient_at(table, at[i])
    return out
