"""Places in triangles as weights of their corners."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Floats
from reticula.core.jit import parallel_kernel, prange
from reticula.core.rows import dot3

__all__ = ["barycentric"]


def barycentric(corner: Floats, place: Floats) -> Floats:
    """Return weights ``(N, 3)`` of a place ``(N, 3)`` in each triangle ``(N, 3, 3)``, clipped to the triangle; of
    several places in a row in each of fewer triangles.

    Ericson, "Real-Time Collision Detection", 3.4. A triangle without area gives its first corner.
    """
    return _weights(np.ascontiguousarray(corner), np.ascontiguousarray(place))


@parallel_kernel
def _weights(corner: Floats, place: Floats) -> Floats:
    out = np.empty((len(place), 3))
    each = len(place) // max(len(corner), 1)
    for i in prange(len(place)):
        t = i // each
        ax, ay, az = corner[t, 0, 0], corner[t, 0, 1], corner[t, 0, 2]
        bx, by, bz = corner[t, 1, 0] - ax, corner[t, 1, 1] - ay, corner[t, 1, 2] - az
        cx, cy, cz = corner[t, 2, 0] - ax, corner[t, 2, 1] - ay, corner[t, 2, 2] - az
        px, py, pz = place[i, 0] - ax, place[i, 1] - ay, place[i, 2] - az
        nx, ny, nz = by * cz - bz * cy, bz * cx - bx * cz, bx * cy - by * cx
        area = max(dot3(nx, ny, nz, nx, ny, nz), 1e-300)
        x, y, z = py * cz - pz * cy, pz * cx - px * cz, px * cy - py * cx
        second = dot3(x, y, z, nx, ny, nz) / area
        x, y, z = by * pz - bz * py, bz * px - bx * pz, bx * py - by * px
        third = dot3(x, y, z, nx, ny, nz) / area
        a = min(max(1.0 - second - third, 0.0), 1.0)
        b, c = min(max(second, 0.0), 1.0), min(max(third, 0.0), 1.0)
        total = a + b + c
        out[i, 0], out[i, 1], out[i, 2] = a / total, b / total, c / total
    return out
