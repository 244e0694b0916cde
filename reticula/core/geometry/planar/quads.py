"""Faces of four corners cut into two triangles, along the diagonal that lies inside, or the shorter of two."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Floats, Indices
from reticula.core.jit import inline, parallel_kernel, prange

__all__ = ["ALIKE", "cut_quads", "first_corner", "length2", "turn"]

Quad = tuple[int, int, int, int]
Vector = Floats | tuple[float, float, float]
ALIKE = 1.0 - 1e-9
"""Cuts whose squared lengths differ by less count as equally long: then the first is taken, wherever the face lies."""


@inline
def turn(p: Floats, a: int, b: int, c: int, n: Vector) -> float:
    """How far the way from ``a`` over ``b`` to ``c`` turns around ``n``: above zero where the corner is convex."""
    ux, uy, uz = p[b, 0] - p[a, 0], p[b, 1] - p[a, 1], p[b, 2] - p[a, 2]
    vx, vy, vz = p[c, 0] - p[a, 0], p[c, 1] - p[a, 1], p[c, 2] - p[a, 2]
    return (uy * vz - uz * vy) * n[0] + (uz * vx - ux * vz) * n[1] + (ux * vy - uy * vx) * n[2]


@inline
def length2(p: Floats, a: int, b: int) -> float:
    """The squared distance of two points."""
    x, y, z = p[b, 0] - p[a, 0], p[b, 1] - p[a, 1], p[b, 2] - p[a, 2]
    return x * x + y * y + z * z


@inline
def first_corner(p: Floats, quad: Quad, n: Vector, shortest: bool) -> int:
    """Where the diagonal of a quad begins: 0 for its first corner, 1 for its second."""
    a, b, c, d = quad
    ac = min(turn(p, a, b, c, n), turn(p, a, c, d, n))
    bd = min(turn(p, a, b, d, n), turn(p, b, c, d, n))
    if shortest and ac > 0.0 and bd > 0.0 and length2(p, b, d) < length2(p, a, c) * ALIKE:
        return 1
    return 0 if ac > 0.0 or ac >= bd else 1


@inline
def _area_vector(p: Floats, quad: Quad) -> tuple[float, float, float]:
    a, b, c, d = quad
    bx, by, bz = p[b, 0] - p[a, 0], p[b, 1] - p[a, 1], p[b, 2] - p[a, 2]
    cx, cy, cz = p[c, 0] - p[a, 0], p[c, 1] - p[a, 1], p[c, 2] - p[a, 2]
    dx, dy, dz = p[d, 0] - p[a, 0], p[d, 1] - p[a, 1], p[d, 2] - p[a, 2]
    x = by * cz - bz * cy + (cy * dz - cz * dy)
    y = bz * cx - bx * cz + (cz * dx - cx * dz)
    z = bx * cy - by * cx + (cx * dy - cy * dx)
    return 0.5 * x, 0.5 * y, 0.5 * z


@parallel_kernel
def cut_quads(positions: Floats, corner_point: Indices, shortest: bool) -> tuple[Indices, Indices]:
    """Return the old corner and the point of each corner of two triangles per quad ``(6 F,)``.

    ``corner_point (4 F,)`` are the corners of all faces. The triangles are those of
    :func:`reticula.core.geometry.planar.ear_clipping.cut_polygons`.
    """
    count = len(corner_point) // 4
    corner, point = np.empty(6 * count, np.int32), np.empty(6 * count, np.int32)
    for f in prange(count):
        first = 4 * f
        quad = corner_point[first], corner_point[first + 1], corner_point[first + 2], corner_point[first + 3]
        at = first_corner(positions, quad, _area_vector(positions, quad), shortest)
        for k in range(2):
            for i in range(3):
                turned = (at + (i + k if i else 0)) % 4
                corner[6 * f + 3 * k + i] = first + turned
                point[6 * f + 3 * k + i] = corner_point[first + turned]
    return corner, point
