"""The value of a picture at a place of it: u is 0 at its left and 1 at its right, v 0 at its foot and 1 at its top.

Pixels are areas whose values stand in their middles, as in OpenGL 4.6, "8.14 Texture Minification" (linear and nearest)
and its wrap modes; the words are those of glTF 2.0's samplers.
"""

from __future__ import annotations

import math

import numpy as np

from reticula.core.arrays import AnyArray, Floats
from reticula.core.jit import inline, parallel_kernel, prange

__all__ = ["BETWEEN", "BEYOND", "picture_at", "sample_picture"]

BETWEEN = {"linear": "blended from the four around", "nearest": "that of the pixel"}
BEYOND = {
    "clamp": "as at the edge",
    "repeat": "the picture again",
    "mirror": "the picture again, each time mirrored",
    "nothing": "zero",
}
REPEAT, MIRROR, NOTHING = 1, 2, 3
"""Numbers of the words in ``BEYOND``; so are 0 and 1 in ``BETWEEN``."""


@inline
def _in_range(i: int, count: int, beyond: int) -> int:
    if i >= 0 and i < count:
        return i
    if beyond == REPEAT:
        return i % count
    if beyond == MIRROR:
        folded = i % (2 * count)
        return folded if folded < count else 2 * count - 1 - folded
    return min(max(i, 0), count - 1)


@inline
def _near(u: float, beyond: int) -> float:
    """Bring a far place to an equal one that is near, so that its pixel has a number."""
    if beyond == REPEAT:
        return u - math.floor(u)
    if beyond == MIRROR:
        return u - 2.0 * math.floor(0.5 * u)
    return min(max(u, -1.0), 2.0)


@inline
def picture_at(
    pixels: AnyArray, size: tuple[int, int], rules: tuple[int, int], u: float, v: float, out: Floats
) -> None:
    """Put red, green, blue and opacity at a place into ``out``; zeros at a place that is no number.

    ``pixels (H * W, C)``, ``size`` columns and rows, ``rules`` what is between pixels and what beyond them.
    """
    across, up = size
    between, beyond = rules
    out[0], out[1], out[2], out[3] = 0.0, 0.0, 0.0, 0.0
    if not (math.isfinite(u) and math.isfinite(v)):
        return
    if beyond == NOTHING and (u < 0.0 or u > 1.0 or v < 0.0 or v > 1.0):
        return
    x, y = _near(u, beyond) * across - 0.5, (1.0 - _near(v, beyond)) * up - 0.5
    if between == 1:
        x, y = math.floor(x + 0.5), math.floor(y + 0.5)
    left, top = math.floor(x), math.floor(y)
    fx, fy = x - left, y - top
    i0, i1 = _in_range(int(left), across, beyond), _in_range(int(left) + 1, across, beyond)
    j0, j1 = _in_range(int(top), up, beyond), _in_range(int(top) + 1, up, beyond)
    a, b, c, d = j0 * across + i0, j0 * across + i1, j1 * across + i0, j1 * across + i1
    channels = pixels.shape[1]
    colours = 3 if channels > 2 else 1
    for k in range(3):
        out[k] = _mixed(pixels, (a, b, c, d), k, fx, fy) if k < colours else out[0]
    out[3] = _mixed(pixels, (a, b, c, d), colours, fx, fy) if channels > colours else 1.0


@inline
def _mixed(pixels: AnyArray, at: tuple[int, int, int, int], channel: int, fx: float, fy: float) -> float:
    a, b = np.float64(pixels[at[0], channel]), np.float64(pixels[at[1], channel])
    c, d = np.float64(pixels[at[2], channel]), np.float64(pixels[at[3], channel])
    upper = a if fx == 0.0 else a + (b - a) * fx
    lower = c if fx == 0.0 else c + (d - c) * fx
    return upper if fy == 0.0 else upper + (lower - upper) * fy


@parallel_kernel
def _at_all(pixels: AnyArray, size: tuple[int, int], rules: tuple[int, int], places: Floats) -> Floats:
    out = np.empty((len(places), 4))
    for row in prange(len(places)):
        picture_at(pixels, size, rules, places[row, 0], places[row, 1], out[row])
    return out


def sample_picture(pixels: AnyArray, size: tuple[int, int], rules: tuple[int, int], places: Floats) -> Floats:
    """Return the values of a picture at ``places (N, 2)``: red, green, blue, opacity ``(N, 4)``."""
    return _at_all(pixels, size, rules, np.ascontiguousarray(places, np.float64))
