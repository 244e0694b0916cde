"""Polygons cut into triangles by ear clipping. Meisters, "Polygons have ears", Amer. Math. Monthly 82, 1975.

Only corners that are not convex are looked at, of large polygons those nearby (a grid), so that cost is near-linear.
Corners that lie in one place, as where a hole is joined to the outline by a bridge, are told apart by where their edges
go.
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from reticula.core.arrays import Floats, Indices
from reticula.core.geometry.mesh.adjacency import group_by
from reticula.core.geometry.planar.crossing_limits import plane_axes
from reticula.core.geometry.planar.quads import ALIKE, first_corner, length2, turn
from reticula.core.jit import inline, inline_making, parallel_kernel, prange

__all__ = ["cut_polygons"]

MOST_SHORT = 64
"""Corners up to which the shortest ear is looked for; of larger faces the first one is taken."""

SLACK = 1e-6
"""How far around a triangle corners are looked for, in cells of the grid."""


class _Grid(NamedTuple):
    """The corners of a large polygon by the cells of a grid in its plane, so that few are looked at for each ear.

    ``flat (N, 2)`` their places in units of a cell; ``side`` cells each way, 0 for no grid; ``start``, ``item`` the
    corners in each cell.
    """

    flat: Floats
    side: int
    start: Indices
    item: Indices


class _Ring(NamedTuple):
    """What is left of a polygon: ``point (N,)`` of each corner, the corners ``before`` and ``after`` each ``(N,)``.

    Those that are not convex are the first ``left[0]`` of ``reflex``; ``place`` says where in it each is, or -1. The
    ``grid`` finds corners by where they are.
    """

    point: Indices
    before: Indices
    after: Indices
    reflex: Indices
    place: Indices
    left: Indices
    grid: _Grid


@inline_making
def _grid_of(p: Floats, point: Indices, n: Floats) -> _Grid:
    """A grid with about one corner per cell; none for small polygons."""
    size = len(point)
    length = np.sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2])
    if size <= MOST_SHORT or length == 0.0:
        return _Grid(np.zeros((0, 2)), 0, np.zeros(1, np.int32), np.zeros(0, np.int32))
    axes = plane_axes(n / length)
    flat = np.zeros((size, 2))
    for i in range(size):
        for k in range(2):
            for m in range(3):
                flat[i, k] += (p[point[i], m] - p[point[0], m]) * axes[k, m]
    side = max(1, int(np.sqrt(size)))
    for k in range(2):
        low, high = flat[:, k].min(), flat[:, k].max()
        step = (high - low) / side if high > low else 1.0
        for i in range(size):
            flat[i, k] = (flat[i, k] - low) / step
    cell = np.empty(size, np.int32)
    for i in range(size):
        cell[i] = _cell(flat[i, 1], side) * side + _cell(flat[i, 0], side)
    start, item = group_by(cell, side * side)
    return _Grid(flat, side, start, item)


@inline
def _cell(place: float, side: int) -> int:
    return min(max(int(place), 0), side - 1)


@inline
def _same(p: Floats, a: int, b: int) -> bool:
    return p[a, 0] == p[b, 0] and p[a, 1] == p[b, 1] and p[a, 2] == p[b, 2]


@inline
def _turn_at(p: Floats, ring: _Ring, i: int, n: Floats) -> float:
    return turn(p, ring.point[ring.before[i]], ring.point[i], ring.point[ring.after[i]], n)


@inline
def _note_turn(p: Floats, ring: _Ring, i: int, n: Floats) -> None:
    """Put corner ``i`` among those that are not convex, or take it out."""
    convex, at, last = _turn_at(p, ring, i, n) > 0.0, ring.place[i], ring.left[0] - 1
    if convex and at >= 0:
        ring.reflex[at] = ring.reflex[last]
        ring.place[ring.reflex[at]] = at
        ring.place[i] = -1
        ring.left[0] = last
    elif not convex and at < 0:
        ring.reflex[last + 1] = i
        ring.place[i] = last + 1
        ring.left[0] = last + 2


@inline_making
def _ring_of(p: Floats, point: Indices, n: Floats) -> _Ring:
    size = len(point)
    step = np.arange(size).astype(np.int32)
    before, after = step - np.int32(1), step + np.int32(1)
    before[0], after[size - 1] = size - 1, 0
    place = np.full(size, -1, np.int32)
    ring = _Ring(point, before, after, np.empty(size, np.int32), place, np.zeros(1, np.int32), _grid_of(p, point, n))
    for i in range(size):
        _note_turn(p, ring, i, n)
    return ring


@inline
def _is_in_ear(p: Floats, ring: _Ring, i: int, q: int, n: Floats, strict: bool) -> bool:
    """Whether corner ``q`` keeps the triangle at corner ``i`` from being cut off.

    Corners in the place of one of the triangle's ends do not count; in that of its tip, they do if an edge of theirs
    goes in or both run along it.
    """
    a, c, point = ring.before[i], ring.after[i], ring.point
    pa, pb, pc, pq = point[a], point[i], point[c], point[q]
    if q == a or q == c or _same(p, pq, pa) or _same(p, pq, pc):
        return False
    if _same(p, pq, pb):
        come, go = point[ring.before[q]], point[ring.after[q]]
        entering = min(turn(p, pa, pb, come, n), turn(p, pb, pc, come, n))
        leaving = min(turn(p, pa, pb, go, n), turn(p, pb, pc, go, n))
        return entering > 0.0 or leaving > 0.0 or (entering == 0.0 and leaving == 0.0)
    least = min(turn(p, pa, pb, pq, n), turn(p, pb, pc, pq, n), turn(p, pc, pa, pq, n))
    return least > 0.0 or (strict and least == 0.0)


@inline
def _is_ear(p: Floats, ring: _Ring, i: int, n: Floats, strict: bool) -> bool:
    """Whether the triangle at corner ``i`` holds no other corner; unless ``strict``, one may lie on its border."""
    a, c, grid = ring.before[i], ring.after[i], ring.grid
    if turn(p, ring.point[a], ring.point[i], ring.point[c], n) <= 0.0:
        return False
    if grid.side:
        flat, side = grid.flat, grid.side
        x0 = _cell(min(flat[a, 0], flat[i, 0], flat[c, 0]) - SLACK, side)
        x1 = _cell(max(flat[a, 0], flat[i, 0], flat[c, 0]) + SLACK, side)
        y0 = _cell(min(flat[a, 1], flat[i, 1], flat[c, 1]) - SLACK, side)
        y1 = _cell(max(flat[a, 1], flat[i, 1], flat[c, 1]) + SLACK, side)
        if (x1 - x0 + 1) * (y1 - y0 + 1) < ring.left[0]:
            for y in range(y0, y1 + 1):
                for k in range(grid.start[y * side + x0], grid.start[y * side + x1 + 1]):
                    q = grid.item[k]
                    if ring.place[q] >= 0 and _is_in_ear(p, ring, i, q, n, strict):
                        return False
            return True
    for k in range(ring.left[0]):
        if _is_in_ear(p, ring, i, ring.reflex[k], n, strict):
            break
    else:
        return True
    return False


@inline
def _is_spike(p: Floats, ring: _Ring, i: int) -> bool:
    return _same(p, ring.point[ring.before[i]], ring.point[ring.after[i]])


@inline
def _last_resort(p: Floats, ring: _Ring, start: int, left: int, n: Floats) -> int:
    """Return the corner to cut off where no triangle is free: a spike, an ear that others touch, or the flattest."""
    i = start
    for _ in range(left):
        if _is_spike(p, ring, i):
            return i
        i = ring.after[i]
    for _ in range(left):
        if _is_ear(p, ring, i, n, False):
            return i
        i = ring.after[i]
    found, least = start, np.inf
    for _ in range(left):
        turn = abs(_turn_at(p, ring, i, n))
        if turn < least:
            found, least = i, turn
        i = ring.after[i]
    return found


@inline
def _next_ear(p: Floats, ring: _Ring, start: int, left: int, n: Floats, shortest: bool) -> int:
    """Return the corner to cut off next: the first ear from ``start`` on, or the one of the ``shortest`` cut."""
    found, least, i = -1, np.inf, start
    for _ in range(left):
        if shortest and left <= MOST_SHORT:
            cut = length2(p, ring.point[ring.before[i]], ring.point[ring.after[i]])
            if cut < least and _is_ear(p, ring, i, n, True):
                least, found = cut * ALIKE, i
        elif _is_ear(p, ring, i, n, True):
            return i
        i = ring.after[i]
    return found if found >= 0 else _last_resort(p, ring, start, left, n)


@inline
def _cut_off(p: Floats, ring: _Ring, i: int, n: Floats) -> None:
    a, c = ring.before[i], ring.after[i]
    ring.after[a], ring.before[c] = c, a
    if ring.place[i] >= 0:
        last = ring.left[0] - 1
        ring.reflex[ring.place[i]] = ring.reflex[last]
        ring.place[ring.reflex[last]] = ring.place[i]
        ring.left[0] = last
    _note_turn(p, ring, a, n)
    _note_turn(p, ring, c, n)


@parallel_kernel
def _triangulate(
    p: Floats, face_start: Indices, point: Indices, normal: Floats, shortest: bool
) -> tuple[Indices, Indices]:
    count = len(point) - 2 * (len(face_start) - 1)
    corner, face = np.empty((count, 3), np.int32), np.empty(count, np.int32)
    for f in prange(len(face_start) - 1):
        first, size = face_start[f], face_start[f + 1] - face_start[f]
        at = first - 2 * f
        n = normal[f]
        if size == 4:
            quad = point[first], point[first + 1], point[first + 2], point[first + 3]
            begin = first_corner(p, quad, n, shortest)
            for k in range(2):
                corner[at, 0] = first + begin
                corner[at, 1] = first + (begin + 1 + k) % 4
                corner[at, 2] = first + (begin + 2 + k) % 4
                face[at] = f
                at += 1
            continue
        ring = _ring_of(p, point[first : first + size], n)
        i = 0
        for left in range(size, 3, -1):
            i = _next_ear(p, ring, i, left, n, shortest)
            corner[at, 0], corner[at, 1], corner[at, 2] = first + ring.before[i], first + i, first + ring.after[i]
            face[at] = f
            at += 1
            _cut_off(p, ring, i, n)
            i = ring.after[i]
        a, b, c = i, ring.after[i], ring.before[i]
        least = min(a, b, c)
        while a != least:
            a, b, c = b, c, a
        corner[at, 0], corner[at, 1], corner[at, 2] = first + a, first + b, first + c
        face[at] = f
    return corner, face


def cut_polygons(
    positions: Floats, face_start: Indices, point: Indices, normal: Floats, *, shortest: bool = True
) -> tuple[Indices, Indices]:
    """Return triangles of polygons as corners ``(T, 3)`` and polygons ``(T,)``; see
    :func:`reticula.core.geometry.triangles`.

    ``normal (F, 3)`` says which side is up; ``shortest`` prefers short cuts, else the first corner's.
    """
    return _triangulate(positions, face_start, point, normal, shortest)
