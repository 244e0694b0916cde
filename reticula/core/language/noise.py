"""Noise over space, compiled: gradient noise with octaves, and distance to random cell centres."""

from __future__ import annotations

import math

import numpy as np

from reticula.core.arrays import Floats, Ints
from reticula.core.geometry.mesh.identity import mix64
from reticula.core.jit import inline, parallel_kernel, prange

__all__ = ["SHIFTS", "cell_distance", "cell_label", "cell_labels", "cellular", "gradient_noise", "octaves_at"]

SHIFTS = np.array([[0.0, 0.0, 0.0], [137.31, 59.73, 211.17], [71.57, 173.93, 29.41]])
"""Where three noises are taken that have nothing to do with each other."""

OFF_X, OFF_Y, OFF_Z = 0.8191725133961645, 0.6710436067037893, 0.5497004779019703
"""By how much one octave is off the other: powers of the inverse of the number with x**4 = x + 1, whose multiples
spread evenly (Roberts, "The unreasonable effectiveness of quasirandom sequences", 2018), so that no place is on all
lattices.
"""


@inline
def _lattice(x: np.int64, y: np.int64, z: np.int64) -> np.uint64:
    value = mix64(np.uint64(x) + np.uint64(0x9E3779B97F4A7C15))
    value = mix64(value + np.uint64(y))
    return mix64(value + np.uint64(z))


@inline
def _slope(x: np.int64, y: np.int64, z: np.int64, dx: float, dy: float, dz: float) -> float:
    pick = _lattice(x, y, z) % np.uint64(12)
    edge, signs = pick // np.uint64(4), pick % np.uint64(4)
    first = 1.0 if signs < np.uint64(2) else -1.0
    second = 1.0 if signs % np.uint64(2) == np.uint64(0) else -1.0
    if edge == np.uint64(0):
        return first * dx + second * dy
    if edge == np.uint64(1):
        return first * dx + second * dz
    return first * dy + second * dz


@inline
def _fade(t: float) -> float:
    return t * t * t * (t * (t * 6.0 - 15.0) + 10.0)


@inline
def _noise_at(x: float, y: float, z: float) -> float:
    fx, fy, fz = math.floor(x), math.floor(y), math.floor(z)
    i, j, k = np.int64(fx), np.int64(fy), np.int64(fz)
    dx, dy, dz = x - fx, y - fy, z - fz
    u, v, w = _fade(dx), _fade(dy), _fade(dz)
    total = 0.0
    for c in range(8):
        a, b, d = c & 1, (c >> 1) & 1, (c >> 2) & 1
        weight = (u if a else 1.0 - u) * (v if b else 1.0 - v) * (w if d else 1.0 - w)
        total += weight * _slope(i + a, j + b, k + d, dx - a, dy - b, dz - d)
    return total


@inline
def octaves_at(x: float, y: float, z: float, octaves: int) -> float:
    """Noise with octaves at one place. Each octave stands somewhere else on its lattice, on which noise is 0."""
    total, strength, reach, scale = 0.0, 1.0, 0.0, 1.0
    for octave in range(min(max(octaves, 1), 16)):
        off = octave + 1.0
        total += strength * _noise_at(x * scale + off * OFF_X, y * scale + off * OFF_Y, z * scale + off * OFF_Z)
        reach += strength
        strength *= 0.5
        scale *= 2.0
    return total / reach


@parallel_kernel
def gradient_noise(points: Floats, octaves: Ints) -> Floats:
    """Return smooth noise ``(N,)`` at ``points (N, 3)``, within -1..1.

    Each of ``octaves (N,)`` doubles the frequency and halves the strength; the sum is divided by the strengths' sum.
    Gradients and fade after Perlin, "Improving Noise", SIGGRAPH 2002; the lattice is hashed with 64 bits instead of
    a table of 256, so that the pattern does not repeat.
    """
    out = np.empty(len(points))
    for i in prange(len(points)):
        out[i] = octaves_at(points[i, 0], points[i, 1], points[i, 2], octaves[i])
    return out


@inline
def _nearest_cell(x: float, y: float, z: float) -> tuple[float, np.uint64]:
    """Squared distance to the nearest centre, and the bits of its cell."""
    i, j, k = np.int64(math.floor(x)), np.int64(math.floor(y)), np.int64(math.floor(z))
    best, label = np.inf, np.uint64(0)
    for a in range(i - 2, i + 3):
        for b in range(j - 2, j + 3):
            for c in range(k - 2, k + 3):
                bits = _lattice(np.int64(a), np.int64(b), np.int64(c))
                cx = a + np.float64(bits & np.uint64(0x1FFFFF)) / 2097152.0 - x
                cy = b + np.float64((bits >> np.uint64(21)) & np.uint64(0x1FFFFF)) / 2097152.0 - y
                cz = c + np.float64((bits >> np.uint64(42)) & np.uint64(0x1FFFFF)) / 2097152.0 - z
                far = cx * cx + cy * cy + cz * cz
                if far < best:
                    best, label = far, bits
    return best, label


@inline
def cell_distance(x: float, y: float, z: float) -> float:
    """Distance to the nearest centre from one place."""
    return math.sqrt(_nearest_cell(x, y, z)[0])


@inline
def cell_label(x: float, y: float, z: float) -> float:
    """The random number of the cell that one place lies in."""
    bits = mix64(_nearest_cell(x, y, z)[1])
    return np.float64(bits >> np.uint64(11)) * (1.0 / 9007199254740992.0)


@parallel_kernel
def cellular(points: Floats) -> Floats:
    """Return the distance from ``points (N, 3)`` to the nearest of one random centre per unit cell ``(N,)``.

    Worley, "A cellular texture basis function", SIGGRAPH 1996, with one centre in each cell; the 5x5x5 cells around
    are searched, which is enough to be exact.
    """
    out = np.empty(len(points))
    for n in prange(len(points)):
        out[n] = cell_distance(points[n, 0], points[n, 1], points[n, 2])
    return out


@parallel_kernel
def cell_labels(points: Floats) -> Floats:
    """Return a random number in [0, 1) per ``points (N, 3)`` that all places with the same nearest centre share
    ``(N,)``.
    """
    out = np.empty(len(points))
    for n in prange(len(points)):
        out[n] = cell_label(points[n, 0], points[n, 1], points[n, 2])
    return out
