"""How far a flat cell lies from the sheet of triangles that covers it: a bound over all of the cell at once."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from reticula.core.arrays import Floats, Indices
from reticula.core.geometry.measure.triangles import triangles
from reticula.core.geometry.mesh.geo import Geo, once_per_geo
from reticula.core.jit import inline, inline_making

__all__ = ["Sheet", "sheet_distance", "sheet_of"]

MOST = 64
"""How many triangles a cell may be covered by; cells over more are cut first."""


class Sheet(NamedTuple):
    """Triangles ``corner (T, 3, 3)`` in m and, across the edge from each corner to the next, the triangle that follows,
    ``beside (T, 3)``: -1 where none or several do.
    """

    corner: Floats
    beside: Indices


@once_per_geo
def sheet_of(geo: Geo) -> Sheet:
    """Return the triangles of a surface with their neighbours."""
    point = geo.topology.corner_point[triangles(geo).corner].astype(np.int64)
    ends = np.stack([point, np.roll(point, -1, axis=1)], axis=2).reshape(-1, 2)
    key = ends.min(axis=1) * max(geo.topology.point_count, 1) + ends.max(axis=1)
    order = np.argsort(key, kind="stable")
    first = np.flatnonzero(np.diff(key[order], prepend=-1))
    pairs = first[np.diff(first, append=len(key)) == 2]
    beside = np.full(len(key), -1, np.int32)
    one, other = order[pairs], order[pairs + 1]
    beside[one], beside[other] = other // 3, one // 3
    return Sheet(np.ascontiguousarray(geo.positions[point]), beside.reshape(-1, 3))


@inline
def _side(a: Floats, b: Floats, at: Floats) -> float:
    """Signed distance in the plane of a place from the line through two others, positive on its left."""
    x, y = b[0] - a[0], b[1] - a[1]
    length = np.sqrt(x * x + y * y)
    return (x * (at[1] - a[1]) - y * (at[0] - a[0])) / length if length > 0.0 else np.nan


@inline
def _outside(cell: Floats, at: Floats, count: int, margin: float) -> bool:
    """Whether places lie beyond one edge of a cell, wound counter-clockwise, together."""
    for e in range(3):
        beyond = 0
        for i in range(count):
            if _side(cell[e], cell[(e + 1) % 3], at[i]) < -margin:
                beyond += 1
        if beyond == count:
            return True
    return False


@inline
def _flattened(cell: Floats, axes: Floats, t: Floats, out: Floats) -> None:
    """Write the corners of a triangle in the frame of a cell: two along its plane, then the height over it."""
    for c in range(3):
        for w in range(3):
            out[c, w] = 0.0
            for k in range(3):
                out[c, w] += axes[w, k] * (t[c, k] - cell[0, k])


@inline_making
def _frame(cell: Floats, axes: Floats) -> bool:
    """Write a frame whose third axis is the normal of a cell; false if it has none."""
    a, b = cell[1] - cell[0], cell[2] - cell[0]
    long, n = np.sqrt((a * a).sum()), np.cross(a, b)
    size = np.sqrt((n * n).sum())
    if not size > 1e-12 * long * np.sqrt((b * b).sum()):
        return False
    axes[0], axes[2] = a / long, n / size
    axes[1] = np.cross(axes[2], axes[0])
    return True


@inline
def _height(flat: Floats, cell: Floats) -> float:
    """A bound on the height of a triangle over a cell: the lesser of that of its corners, and of its plane at the
    cell's corners.
    """
    own = max(abs(flat[0, 2]), abs(flat[1, 2]), abs(flat[2, 2]))
    ax, ay, bx, by = flat[1, 0] - flat[0, 0], flat[1, 1] - flat[0, 1], flat[2, 0] - flat[0, 0], flat[2, 1] - flat[0, 1]
    total = ax * by - ay * bx
    if total == 0.0:
        return own
    over = 0.0
    for c in range(3):
        x, y = cell[c, 0] - flat[0, 0], cell[c, 1] - flat[0, 1]
        u, v = (x * by - y * bx) / total, (ax * y - ay * x) / total
        over = max(over, abs((1.0 - u - v) * flat[0, 2] + u * flat[1, 2] + v * flat[2, 2]))
    return min(own, over)


@inline
def _goes_on(sheet: Sheet, room: tuple[Floats, Floats, Floats, Floats, Floats], t: int, e: int, margin: float) -> int:
    """The triangle that goes on across an edge over a cell: -1 if none has to, -2 if one is missing or folds back."""
    cell, flat, other, axes, origin = room
    one, end = flat[e], flat[(e + 1) % 3]
    inner = _side(one, end, flat[(e + 2) % 3])
    if not abs(inner) > margin:
        return -2
    turn = 1.0 if inner > 0.0 else -1.0
    within = 0
    for c in range(3):
        if turn * _side(one, end, cell[c]) >= -margin:
            within += 1
    if within == 3:
        return -1
    for i in range(flat.shape[1]):
        other[0, i], other[1, i] = one[i], end[i]
    if _outside(cell, other, 2, margin):
        return -1
    there = sheet.beside[t, e]
    if there < 0:
        return -2
    _flattened(origin, axes, sheet.corner[there], other)
    for c in range(3):
        if turn * _side(one, end, other[c]) < -margin:
            return there
    return -2


@inline_making
def sheet_distance(sheet: Sheet, corner: Floats, start: int, limit: float, margin: float) -> bool:
    """Return whether a cell ``corner (3, 3)`` is within a limit of the sheet around the triangle ``start``.

    The sheet is followed from triangle to triangle as long as they lie over the cell, seen along its normal. If it
    never folds back, and no edge over the cell is a border, it covers the cell, because lines over the cell can be
    followed on it; then heights bound distances. ``margin`` in m is what is not told apart.
    """
    axes, cell, flat, other = np.empty((3, 3)), np.empty((3, 3)), np.empty((3, 3)), np.empty((3, 3))
    if start < 0 or not _frame(corner, axes):
        return False
    _flattened(corner, axes, corner, cell)
    middle = (cell[0] + cell[1] + cell[2]) / 3.0
    found, count, at, covered = np.empty(MOST, np.int64), 1, 0, False
    found[0] = start
    room = (cell, flat, other, axes, corner)
    while at < count:
        t = found[at]
        at += 1
        _flattened(corner, axes, sheet.corner[t], flat)
        if _height(flat, cell) > limit:
            return False
        turn = 1.0 if _side(flat[0], flat[1], flat[2]) > 0.0 else -1.0
        inside = True
        for e in range(3):
            inside &= turn * _side(flat[e], flat[(e + 1) % 3], middle) >= 0.0
        covered |= inside
        for e in range(3):
            there = _goes_on(sheet, room, t, e, margin)
            if there == -2:
                return False
            known = there == -1
            for i in range(count):
                known |= found[i] == there
            if known:
                continue
            if count == MOST:
                return False
            found[count] = there
            count += 1
    return covered
