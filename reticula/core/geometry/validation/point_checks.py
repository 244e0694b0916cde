"""What the checks of points find by kernels: fans of faces at a point, and points that lie on each other."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Flags, Floats, Indices, Ints
from reticula.core.equal_rows import unique_rows
from reticula.core.geometry.mesh.topology import Topology
from reticula.core.jit import inline, kernel

__all__ = ["fan_counts", "near_points"]

SLANTED = np.array([0.5412, 0.3829, 0.7486])
"""Along this direction, of length 1, points of boxes, sheets and grids lie apart."""


@inline
def _root(parent: Indices, corner: int) -> int:
    while parent[corner] != corner:
        parent[corner] = parent[parent[corner]]
        corner = parent[corner]
    return corner


@kernel
def _fans(corner_point: Indices, following: Indices, edge_start: Indices, edge_corner: Indices, points: int) -> Indices:
    """Join corners of a point whose faces share an edge at it; count what is left apart at each point."""
    parent = np.arange(len(corner_point)).astype(np.int32)
    for e in range(len(edge_start) - 1):
        begin = corner_point[edge_corner[edge_start[e]]]
        one = other = -1
        for k in range(edge_start[e], edge_start[e + 1]):
            corner = edge_corner[k]
            for c in (corner, following[corner]):
                first = one if corner_point[c] == begin else other
                if first >= 0:
                    parent[_root(parent, c)] = _root(parent, first)
                elif corner_point[c] == begin:
                    one = c
                else:
                    other = c
    count = np.zeros(points, np.int32)
    for c in range(len(corner_point)):
        if parent[c] == c:
            count[corner_point[c]] += 1
    return count


def fan_counts(shape: Topology) -> Indices:
    """Return how many fans the faces around each point form ``(P,)``: 0 without faces, 1 where all hang together."""
    start, corner = shape.edge_corners
    has = np.flatnonzero(np.diff(start))  # edges of curves alone have none
    starts = np.append(start[has], start[-1]).astype(np.int32)
    return _fans(shape.corner_point, shape.corner_next, starts, corner, shape.point_count)


@kernel
def _sweep(positions: Floats, order: Ints, along: Floats, radius: float, window: float) -> Flags:
    """Mark points that have another one within ``radius``; ``order`` is that of their places ``along`` a line."""
    near = np.zeros(len(positions), np.bool_)
    for i in range(len(order)):
        p = order[i]
        for j in range(i + 1, len(order)):
            q = order[j]
            if not along[q] - along[p] <= window:
                break
            x = positions[p, 0] - positions[q, 0]
            y = positions[p, 1] - positions[q, 1]
            z = positions[p, 2] - positions[q, 2]
            if x * x + y * y + z * z <= radius * radius:
                near[p] = near[q] = True
    return near


def near_points(positions: Floats, radius: float) -> Ints:
    """Return the points that have another one of ``positions (P, 3)`` within ``radius`` m, in order.

    Of points in exactly one place one stands for all; the others are swept along a slanted line (Shamos & Hoey,
    "Geometric intersection problems", FOCS 1976).
    """
    first, which = unique_rows((positions + 0.0).view(np.int64))
    apart = positions[first]
    along = apart @ SLANTED
    rounding = 8 * np.finfo(np.float64).eps * float(np.abs(apart).max(initial=0.0))
    near = _sweep(apart, np.argsort(along), along, radius, radius + rounding)
    near |= np.bincount(which, minlength=len(first)) > 1
    return np.flatnonzero(near[which])
