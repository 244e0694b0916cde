"""Which corner of a face lies nearest to a place on it, whichever triangles the face is cut into."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from reticula.core.arrays import Floats, Indices
from reticula.core.jit import inline, parallel_kernel, prange

__all__ = ["FaceCorners", "nearest_corner", "nearest_corners"]


class FaceCorners(NamedTuple):
    """The ``face (T,)`` of each triangle, where the corners of each face begin ``start (F + 1,)``, the ``point (C,)``
    of each corner and the ``position (P, 3)`` of each point in m.
    """

    face: Indices
    start: Indices
    point: Indices
    position: Floats


@inline
def nearest_corner(faces: FaceCorners, triangle: int, x: float, y: float, z: float) -> int:
    """Return the corner of a triangle's face that is nearest to a place, the first of equally near ones."""
    face, start, point, position = faces
    best, found = np.inf, int(start[face[triangle]])
    for corner in range(start[face[triangle]], start[face[triangle] + 1]):
        p = point[corner]
        far = (position[p, 0] - x) ** 2 + (position[p, 1] - y) ** 2 + (position[p, 2] - z) ** 2
        if far < best:
            best, found = far, corner
    return found


@parallel_kernel
def nearest_corners(faces: FaceCorners, triangle: Indices, place: Floats) -> Indices:
    """Return the nearest corner ``(N,)`` to each ``place (N, 3)`` on a ``triangle (N,)``."""
    out = np.empty(len(triangle), np.int32)
    for i in prange(len(triangle)):
        out[i] = nearest_corner(faces, triangle[i], place[i, 0], place[i, 1], place[i, 2])
    return out
