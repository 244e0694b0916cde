"""Polygons cut into triangles by ear clipping. Meisters, "Polygons have ears", Amer. Math. Monthly 82, 1975."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Floats, Indices
from reticula.core.jit import inline, parallel_kernel, prange

__all__ = ["cut_polygons"]

MOST_SHORT = 64
"""Corners up to which the shortest ear is looked for; of larger faces the first one is taken."""


@inline
def _turn(p: Floats, a: int, b: int, c: int, n: Floats) -> float:
    ux, uy, uz = p[b, 0] - p[a, 0], p[b, 1] - p[a, 1], p[b, 2] - p[a, 2]
    vx, vy, vz = p[c, 0] - p[a, 0], p[c, 1] - p[a, 1], p[c, 2] - p[a, 2]
    return (uy * vz - uz * vy) * n[0] + (uz * vx - ux * vz) * n[1] + (ux * vy - uy * vx) * n[2]


@inline
def _is_ear(p: Floats, point: Indices, ring: Indices, left: int, i: int, n: Floats) -> bool:
    a, b, c = ring[(i - 1) % left], ring[i], ring[(i + 1) % left]
    if _turn(p, point[a], point[b], point[c], n) <= 0.0:
        return False
    for k in range(left):
        q = ring[k]
        if q == a or q == b or q == c:
            continue
        if (
            _turn(p, point[a], point[b], point[q], n) >= 0.0
            and _turn(p, point[b], point[c], point[q], n) >= 0.0
            and _turn(p, point[c], point[a], point[q], n) >= 0.0
        ):
            return False
    return True


@inline
def _length2(p: Floats, a: int, b: int) -> float:
    x, y, z = p[b, 0] - p[a, 0], p[b, 1] - p[a, 1], p[b, 2] - p[a, 2]
    return x * x + y * y + z * z


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
            a, b, c, d = point[first], point[first + 1], point[first + 2], point[first + 3]
            ac = min(_turn(p, a, b, c, n), _turn(p, a, c, d, n))
            bd = min(_turn(p, a, b, d, n), _turn(p, b, c, d, n))
            turn = 0 if ac > 0.0 or ac >= bd else 1
            if shortest and ac > 0.0 and bd > 0.0 and _length2(p, b, d) < _length2(p, a, c):
                turn = 1
            for k in range(2):
                corner[at, 0] = first + turn
                corner[at, 1] = first + (turn + 1 + k) % 4
                corner[at, 2] = first + (turn + 2 + k) % 4
                face[at] = f
                at += 1
            continue
        ring = np.empty(size, np.int32)
        for k in range(size):
            ring[k] = first + k
        left = size
        start = 0
        while left > 3:
            found = start % left
            least = np.inf
            for k in range(left):
                i = (start + k) % left
                if shortest and left <= MOST_SHORT:
                    cut = _length2(p, point[ring[(i - 1) % left]], point[ring[(i + 1) % left]])
                    if cut < least and _is_ear(p, point, ring, left, i, n):
                        least, found = cut, i
                elif _is_ear(p, point, ring, left, i, n):
                    found = i
                    break
            corner[at, 0], corner[at, 1], corner[at, 2] = (
                ring[(found - 1) % left],
                ring[found],
                ring[(found + 1) % left],
            )
            face[at] = f
            at += 1
            for k in range(found, left - 1):
                ring[k] = ring[k + 1]
            left -= 1
            start = found
        corner[at, 0], corner[at, 1], corner[at, 2] = ring[0], ring[1], ring[2]
        face[at] = f
    return corner, face


def cut_polygons(
    positions: Floats, face_start: Indices, point: Indices, normal: Floats, *, shortest: bool = False
) -> tuple[Indices, Indices]:
    """Return triangles of polygons as corners ``(T, 3)`` and polygons ``(T,)``; see
    :func:`reticula.core.geometry.triangles`.

    ``normal (F, 3)`` says which side is up; ``shortest`` prefers short cuts.
    """
    return _triangulate(positions, face_start, point, normal, shortest)
