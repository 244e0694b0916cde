"""The faces around a point in the order in which they stand."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from reticula.core.arrays import Flags, Indices
from reticula.core.jit import kernel

__all__ = ["PointFans", "point_fans"]


class PointFans(NamedTuple):
    """Corners around each point in counter-clockwise order, as ``start (P+1,)`` and ``corner``.

    ``closed (P,)`` marks points inside of a fan that goes all the way round, ``border (P,)`` those at an open one. A
    point whose faces do not form one fan has no row.
    """

    start: Indices
    corner: Indices
    closed: Flags
    border: Flags


@kernel
def point_fans(start: Indices, corner: Indices, across: Indices, previous: Indices, following: Indices) -> PointFans:
    """Return the corners around each point in counter-clockwise order."""
    points = len(start) - 1
    sizes = np.zeros(points + 1, np.int32)
    ring = np.empty(len(corner), np.int32)
    closed = np.zeros(points, np.bool_)
    border = np.zeros(points, np.bool_)
    at = 0
    for p in range(points):
        sizes[p + 1] = at
        count = start[p + 1] - start[p]
        if count == 0:
            continue
        first = corner[start[p]]
        c = first
        while across[c] >= 0:
            c = following[across[c]]
            if c == first:
                break
        begin = c
        row = at
        whole = False
        for _ in range(count):
            ring[at] = c
            at += 1
            c = across[previous[c]]
            if c < 0:
                break
            if c == begin:
                whole = True
                break
        if at - row != count or (not whole and c >= 0):
            at = row
        else:
            closed[p] = whole
            border[p] = not whole
        sizes[p + 1] = at
    return PointFans(sizes, ring[:at].copy(), closed, border)
