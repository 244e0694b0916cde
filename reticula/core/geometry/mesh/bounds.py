"""The box around points and instances."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from reticula.core.arrays import Floats, Indices

__all__ = ["bounds_of"]


def bounds_of(positions: Floats, boxes: Sequence[Floats], which: Indices, matrices: Floats) -> Floats:
    """Return the lowest and highest corner of the axis-aligned box around everything ``(2, 3)``, m; zeros of nothing.

    ``positions (P, 3)`` are the points; instance i has the box ``boxes[which[i]] (2, 3)`` in its own space, which
    ``matrices[i] (4, 4)`` leads out of.
    """
    found = [positions.min(axis=0), positions.max(axis=0)] if len(positions) else []
    if len(which):
        own = np.stack(boxes)[which]
        corners = np.stack([own[:, [i, j, k], [0, 1, 2]] for i in (0, 1) for j in (0, 1) for k in (0, 1)], axis=1)
        placed = (corners @ matrices[:, :3, :3].transpose(0, 2, 1) + matrices[:, None, :3, 3]).reshape(-1, 3)
        found += [placed.min(axis=0), placed.max(axis=0)]
    return np.stack([np.min(found, axis=0), np.max(found, axis=0)]) if found else np.zeros((2, 3))
