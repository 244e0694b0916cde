"""Convex hulls of small point sets, many at a time."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Floats, Indices
from reticula.core.jit import inline, kernel

__all__ = ["hulls"]


@inline
def _above(p: Floats, a: int, b: int, c: int, d: int) -> float:
    """Six times the volume of a tetrahedron: positive where d lies on the side to which a, b, c look."""
    ux, uy, uz = p[b, 0] - p[a, 0], p[b, 1] - p[a, 1], p[b, 2] - p[a, 2]
    vx, vy, vz = p[c, 0] - p[a, 0], p[c, 1] - p[a, 1], p[c, 2] - p[a, 2]
    wx, wy, wz = p[d, 0] - p[a, 0], p[d, 1] - p[a, 1], p[d, 2] - p[a, 2]
    return wx * (uy * vz - uz * vy) + wy * (uz * vx - ux * vz) + wz * (ux * vy - uy * vx)


@kernel
def _hull(p: Floats) -> Indices:
    """Triangles of the hull of points in general position, looking outwards; none if they lie in a plane."""
    n = len(p)
    b = c = d = -1
    best = 0.0
    for i in range(1, n):
        x = (p[i, 0] - p[0, 0]) ** 2 + (p[i, 1] - p[0, 1]) ** 2 + (p[i, 2] - p[0, 2]) ** 2
        if x > best:
            best, b = x, i
    best = 0.0
    for i in range(1, n):
        if b < 0:
            break
        ux, uy, uz = p[b, 0] - p[0, 0], p[b, 1] - p[0, 1], p[b, 2] - p[0, 2]
        vx, vy, vz = p[i, 0] - p[0, 0], p[i, 1] - p[0, 1], p[i, 2] - p[0, 2]
        x = (uy * vz - uz * vy) ** 2 + (uz * vx - ux * vz) ** 2 + (ux * vy - uy * vx) ** 2
        if x > best:
            best, c = x, i
    best = 0.0
    for i in range(1, n):
        if c < 0:
            break
        x = abs(_above(p, 0, b, c, i))
        if x > best:
            best, d = x, i
    if d < 0 or best == 0.0:
        return np.zeros((0, 3), np.int32)
    if _above(p, 0, b, c, d) > 0.0:
        b, c = c, b
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
        if q == b or q == c or q == d:
            continue
        visible = False
        for k in range(count):
            seen[k] = alive[k] and _above(p, face[k, 0], face[k, 1], face[k, 2], q) > 0.0
            visible = visible or seen[k]
        if not visible:
            continue
        for k in range(count):
            if seen[k]:
                for i in range(3):
                    stamp[face[k, i], face[k, (i + 1) % 3]] = q
        if count + 3 * n > room:
            kept = 0
            for k in range(count):
                if alive[k]:
                    face[kept], seen[kept], alive[kept] = face[k], seen[k], True
                    kept += 1
            for k in range(kept, count):
                alive[k] = False
            count = kept
        last = count
        for k in range(last):
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
    out = np.empty((count, 3), np.int32)
    at = 0
    for k in range(count):
        if alive[k]:
            out[at] = face[k]
            at += 1
    return out[:at].copy()


@kernel
def hulls(points: Floats, start: Indices) -> tuple[Indices, Indices]:
    """Return the hulls of sets ``start (N+1,)`` of ``points (M, 3)``: triangles ``(T, 3)`` of point numbers, and sets
    ``(T,)``.

    Points are put in one by one (Preparata & Hong, CACM 20(2), 1977; quadratic in the size of a set).
    """
    total = 0
    sets = len(start) - 1
    triangles = np.empty((2 * len(points), 3), np.int32)
    owner = np.empty(2 * len(points), np.int32)
    for s in range(sets):
        made = _hull(points[start[s] : start[s + 1]])
        for k in range(len(made)):
            for i in range(3):
                triangles[total, i] = made[k, i] + start[s]
            owner[total] = s
            total += 1
    return triangles[:total].copy(), owner[:total].copy()
