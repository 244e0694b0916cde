"""Convex hulls of small point sets, many at a time."""

from __future__ import annotations

import numpy as np
import scipy

from reticula.core.arrays import Flags, Floats, Indices
from reticula.core.jit import inline, kernel

__all__ = ["hulls"]

SMALL = 300
"""Up to how many points a set is small: there the kernel is the faster one."""


@inline
def _above(p: Floats, a: int, b: int, c: int, d: int) -> float:
    """Six times the volume of a tetrahedron: positive where d lies on the side to which a, b, c look."""
    ux, uy, uz = p[b, 0] - p[a, 0], p[b, 1] - p[a, 1], p[b, 2] - p[a, 2]
    vx, vy, vz = p[c, 0] - p[a, 0], p[c, 1] - p[a, 1], p[c, 2] - p[a, 2]
    wx, wy, wz = p[d, 0] - p[a, 0], p[d, 1] - p[a, 1], p[d, 2] - p[a, 2]
    return wx * (uy * vz - uz * vy) + wy * (uz * vx - ux * vz) + wz * (ux * vy - uy * vx)


@inline
def _first_corners(p: Floats) -> tuple[int, int, int]:
    """Three points ``b, c, d`` that make a tetrahedron with point 0 which looks outwards; d is -1 if there is none.

    Each is the farthest: from the point, then from the line, then from the plane of those before.
    """
    b = c = d = -1
    best = 0.0
    for i in range(1, len(p)):
        x = (p[i, 0] - p[0, 0]) ** 2 + (p[i, 1] - p[0, 1]) ** 2 + (p[i, 2] - p[0, 2]) ** 2
        if x > best:
            best, b = x, i
    best = 0.0
    for i in range(1 if b >= 0 else len(p), len(p)):
        ux, uy, uz = p[b, 0] - p[0, 0], p[b, 1] - p[0, 1], p[b, 2] - p[0, 2]
        vx, vy, vz = p[i, 0] - p[0, 0], p[i, 1] - p[0, 1], p[i, 2] - p[0, 2]
        x = (uy * vz - uz * vy) ** 2 + (uz * vx - ux * vz) ** 2 + (ux * vy - uy * vx) ** 2
        if x > best:
            best, c = x, i
    best = 0.0
    for i in range(1 if c >= 0 else len(p), len(p)):
        x = abs(_above(p, 0, b, c, i))
        if x > best:
            best, d = x, i
    if d >= 0 and _above(p, 0, b, c, d) > 0.0:
        b, c = c, b
    return b, c, d


@inline
def _pack(face: Indices, alive: Flags, seen: Flags, count: int) -> int:
    """Move the faces that are alive to the front; returns how many there are."""
    kept = 0
    for k in range(count):
        if alive[k]:
            for i in range(3):
                face[kept, i] = face[k, i]
            seen[kept], alive[kept] = seen[k], True
            kept += 1
    for k in range(kept, count):
        alive[k] = False
    return kept


@inline
def _see(p: Floats, q: int, face: Indices, alive: Flags, seen: Flags, count: int) -> bool:
    """Mark the faces that a point sees; whether there is any."""
    visible = False
    for k in range(count):
        seen[k] = alive[k] and _above(p, face[k, 0], face[k, 1], face[k, 2], q) > 0.0
        visible = visible or seen[k]
    return visible


@kernel
def _hull(p: Floats) -> Indices:
    """Triangles ``(T, 3)`` of the hull of points ``(N, 3)`` in general position, looking outwards; none if they lie in
    a plane.
    """
    n = len(p)
    b, c, d = _first_corners(p)
    if d < 0:
        return np.zeros((0, 3), np.int32)
    room = 8 * n + 64
    face = np.empty((room, 3), np.int32)
    alive = np.zeros(room, np.bool_)
    seen = np.zeros(room, np.bool_)
    for k, (x0, x1, x2) in enumerate(((0, b, c), (0, c, d), (c, b, d), (b, 0, d))):
        face[k, 0], face[k, 1], face[k, 2] = x0, x1, x2
        alive[k] = True
    count = 4
    stamp = np.full((n, n), -1, np.int32)
    for q in range(1, n):
        if q == b or q == c or q == d or not _see(p, q, face, alive, seen, count):
            continue
        for k in range(count):
            if seen[k]:
                for i in range(3):
                    stamp[face[k, i], face[k, (i + 1) % 3]] = q
        if count + 3 * n > room:
            count = _pack(face, alive, seen, count)
        for k in range(count):
            if not seen[k]:
                continue
            alive[k] = False
            for i in range(3):
                u, v = face[k, i], face[k, (i + 1) % 3]
                if stamp[v, u] != q:
                    face[count, 0], face[count, 1], face[count, 2] = u, v, q
                    alive[count] = True
                    seen[count] = False
                    count += 1
    return face[: _pack(face, alive, seen, count)].copy()


@kernel
def _hulls(points: Floats, start: Indices, small: Flags) -> tuple[Indices, Indices]:
    total = 0
    triangles = np.empty((2 * len(points), 3), np.int32)
    owner = np.empty(2 * len(points), np.int32)
    for s in np.flatnonzero(small):
        made = _hull(points[start[s] : start[s + 1]])
        for k in range(len(made)):
            for i in range(3):
                triangles[total, i] = made[k, i] + start[s]
            owner[total] = s
            total += 1
    return triangles[:total].copy(), owner[:total].copy()


def _large_hull(points: Floats) -> Indices:
    """What `_hull` returns, by Qhull (Barber, Dobkin & Huhdanpaa, ACM TOMS 22(4), 1996)."""
    try:
        made = scipy.spatial.ConvexHull(points)
    except scipy.spatial.QhullError:
        return np.zeros((0, 3), np.int32)
    triangles = made.simplices.astype(np.int32)
    a, b, c = (points[triangles[:, k]] for k in range(3))
    inwards = np.einsum("ij,ij->i", np.cross(b - a, c - a), made.equations[:, :3]) < 0
    triangles[inwards] = triangles[inwards][:, ::-1]
    return triangles


def hulls(points: Floats, start: Indices) -> tuple[Indices, Indices]:
    """Return the hulls of sets ``start (N+1,)`` of ``points (M, 3)``: triangles ``(T, 3)`` of point numbers, and sets
    ``(T,)``, sorted by set.

    Points of small sets are put in one by one (Preparata & Hong, CACM 20(2), 1977; quadratic); large ones go to Qhull.
    """
    small = np.diff(start) <= SMALL
    triangles, owner = _hulls(points, start, small)
    large = np.flatnonzero(~small)
    if not len(large):
        return triangles, owner
    made = [_large_hull(points[start[s] : start[s + 1]]) + start[s] for s in large]
    owner = np.concatenate([owner, np.repeat(large, [len(part) for part in made])]).astype(np.int32)
    order = np.argsort(owner, kind="stable")
    return np.concatenate([triangles, *made])[order], owner[order]
