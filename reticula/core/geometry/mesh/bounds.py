"""The box around points and instances, and how far points are from their middle."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from reticula.core.arrays import Floats, Indices
from reticula.core.jit import kernel

__all__ = ["bounds_of", "farthest_from_mean"]


def bounds_of(positions: Floats, boxes: Sequence[Floats], which: Indices, matrices: Floats) -> Floats:
    """Return the lowest and highest corner of the axis-aligned box around everything ``(2, 3)``, m; zeros of nothing.

    ``positions (P, 3)`` are the points; instance i has the box ``boxes[which[i]] (2, 3)`` in its own space, which
    ``matrices[i] (4, 4)`` leads out of.
    """
    found = list(_box(positions)) if len(positions) else []
    if len(which):
        own = np.stack(boxes)[which]
        corners = np.stack([own[:, [i, j, k], [0, 1, 2]] for i in (0, 1) for j in (0, 1) for k in (0, 1)], axis=1)
        placed = (corners @ matrices[:, :3, :3].transpose(0, 2, 1) + matrices[:, None, :3, 3]).reshape(-1, 3)
        found += [placed.min(axis=0), placed.max(axis=0)]
    return np.stack([np.min(found, axis=0), np.max(found, axis=0)]) if found else np.zeros((2, 3))


def farthest_from_mean(positions: Floats, near: Floats) -> float:
    """Return the distance from the mean of ``positions (P, 3)`` to the farthest of them, m; nan if one is.

    It is worked out from a place ``near (3,)`` them, so that it is the same far from the origin.
    """
    return float(np.sqrt(_farthest(positions, near)))


@kernel
def _box(positions: Floats) -> Floats:
    """The lowest and the highest of each column ``(2, 3)``; nan where one is."""
    out = np.empty((2, 3))
    for k in range(3):
        out[0, k] = out[1, k] = positions[0, k]
    for i in range(1, len(positions)):
        for k in range(3):
            value = positions[i, k]
            if value < out[0, k] or value != value:
                out[0, k] = value
            if value > out[1, k] or value != value:
                out[1, k] = value
    return out


@kernel
def _farthest(positions: Floats, near: Floats) -> float:
    """The square of the distance."""
    mean = np.zeros(3)
    for i in range(len(positions)):
        for k in range(3):
            mean[k] += positions[i, k] - near[k]
    for k in range(3):
        mean[k] /= len(positions)
    most = 0.0
    for i in range(len(positions)):
        x, y, z = (
            positions[i, 0] - near[0] - mean[0],
            positions[i, 1] - near[1] - mean[1],
            positions[i, 2] - near[2] - mean[2],
        )
        square = x * x + y * y + z * z
        if not square <= most:
            if square != square:
                return square
            most = square
    return most
