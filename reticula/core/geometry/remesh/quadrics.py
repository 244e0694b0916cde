"""Quadrics: squared distances to planes, summed per point. Garland & Heckbert, SIGGRAPH 1997."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Flags, Floats
from reticula.core.jit import inline

__all__ = ["add_plane", "best_position"]


@inline
def add_plane(q: Floats, p: int, plane: tuple[float, float, float, float], w: float) -> None:
    """Add the squared distance to a plane, ``w`` times, to the quadric of a point."""
    a, b, c, d = plane
    q[p, 0] += w * a * a
    q[p, 1] += w * a * b
    q[p, 2] += w * a * c
    q[p, 3] += w * a * d
    q[p, 4] += w * b * b
    q[p, 5] += w * b * c
    q[p, 6] += w * b * d
    q[p, 7] += w * c * c
    q[p, 8] += w * c * d
    q[p, 9] += w * d * d


@inline
def _error(q: Floats, p: int, r: int, at: tuple[float, float, float]) -> float:
    """Summed quadric of two points at a place."""
    x, y, z = at
    s = q[p, 9] + q[r, 9]
    s += 2.0 * ((q[p, 3] + q[r, 3]) * x + (q[p, 6] + q[r, 6]) * y + (q[p, 8] + q[r, 8]) * z)
    s += (q[p, 0] + q[r, 0]) * x * x + (q[p, 4] + q[r, 4]) * y * y + (q[p, 7] + q[r, 7]) * z * z
    s += 2.0 * ((q[p, 1] + q[r, 1]) * x * y + (q[p, 2] + q[r, 2]) * x * z + (q[p, 5] + q[r, 5]) * y * z)
    return max(s, 0.0)


@inline
def best_position(q: Floats, pos: Floats, p: int, r: int, fixed: Flags, out: Floats) -> float:
    """Where the edge p r should collapse to, and the error that makes; a fixed end stays."""
    if fixed[p] or fixed[r]:
        k = p if fixed[p] else r
        for i in range(3):
            out[i] = pos[k, i]
        return _error(q, p, r, (out[0], out[1], out[2]))
    a, b, c = q[p, 0] + q[r, 0], q[p, 1] + q[r, 1], q[p, 2] + q[r, 2]
    e, f, g = q[p, 4] + q[r, 4], q[p, 5] + q[r, 5], q[p, 7] + q[r, 7]
    u, v, w = q[p, 3] + q[r, 3], q[p, 6] + q[r, 6], q[p, 8] + q[r, 8]
    c00, c01, c02 = e * g - f * f, c * f - b * g, b * f - c * e
    det = a * c00 + b * c01 + c * c02
    size = a + e + g
    if abs(det) > 1e-6 * size * size * size:
        c11, c12, c22 = a * g - c * c, b * c - a * f, a * e - b * b
        out[0] = -(c00 * u + c01 * v + c02 * w) / det
        out[1] = -(c01 * u + c11 * v + c12 * w) / det
        out[2] = -(c02 * u + c12 * v + c22 * w) / det
        far = near = 0.0
        for i in range(3):
            m = 0.5 * (pos[p, i] + pos[r, i])
            far += (out[i] - m) ** 2
            near += (pos[p, i] - pos[r, i]) ** 2
        if far <= 4.0 * near:
            return _error(q, p, r, (out[0], out[1], out[2]))
    least = np.inf
    best = 0.5
    for k in range(3):
        t = 0.5 if k == 0 else (0.0 if k == 1 else 1.0)
        at = (
            pos[p, 0] + t * (pos[r, 0] - pos[p, 0]),
            pos[p, 1] + t * (pos[r, 1] - pos[p, 1]),
            pos[p, 2] + t * (pos[r, 2] - pos[p, 2]),
        )
        s = _error(q, p, r, at)
        if s < least:
            least, best = s, t
    for i in range(3):
        out[i] = pos[p, i] + best * (pos[r, i] - pos[p, i])
    return least
