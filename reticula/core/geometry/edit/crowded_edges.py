"""Which faces stay joined where more than two meet at an edge."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from reticula.core.arrays import Floats, Indices
from reticula.core.geometry.measure.areas import face_normals
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.planar.crossing_limits import plane_axes
from reticula.core.jit import inline_making, kernel

__all__ = ["pair_corners"]


class _Fans(NamedTuple):
    """The corners at each edge, ``start (E+1,)`` and ``corner``, and the points, faces and starts of faces."""

    start: Indices
    corner: Indices
    point: Indices
    following: Indices
    face: Indices


@inline_making
def _turn(positions: Floats, fans: _Fans, normals: Floats, c: int, axes: Floats, along: Floats) -> float:
    """The angle at which the face of corner ``c`` leaves its edge, seen along the edge, in radians."""
    n = normals[fans.face[c]]
    sign = 0.0
    p, q = positions[fans.point[c]], positions[fans.point[fans.following[c]]]
    for i in range(3):
        sign += (q[i] - p[i]) * along[i]
    x = y = 0.0
    inward = np.empty(3)
    for i in range(3):
        j, k = (i + 1) % 3, (i + 2) % 3
        inward[i] = n[j] * along[k] - n[k] * along[j]
        if sign < 0.0:
            inward[i] = -inward[i]
    for i in range(3):
        x += inward[i] * axes[0, i]
        y += inward[i] * axes[1, i]
    return float(np.arctan2(y, x))


@kernel
def _pairs(positions: Floats, normals: Floats, fans: _Fans) -> Indices:
    """Per corner the one its face stays joined with along its edge, -1 for none."""
    partner = np.full(len(fans.point), -1, np.int32)
    for e in range(len(fans.start) - 1):
        first, size = fans.start[e], fans.start[e + 1] - fans.start[e]
        if size == 2:
            a, b = fans.corner[first], fans.corner[first + 1]
            partner[a], partner[b] = b, a
        if size <= 2:
            continue
        c = fans.corner[first]
        p, q = positions[fans.point[c]], positions[fans.point[fans.following[c]]]
        along = q - p
        length = np.sqrt(along[0] * along[0] + along[1] * along[1] + along[2] * along[2])
        if length == 0.0:
            continue
        along = along / length
        axes = plane_axes(along)
        turn, forward = np.empty(size), np.empty(size, np.bool_)
        for i in range(size):
            d = fans.corner[first + i]
            turn[i] = _turn(positions, fans, normals, d, axes, along)
            forward[i] = fans.point[d] == fans.point[c]
        order = np.argsort(turn)
        for i in range(size):
            one, two = order[i], order[(i + 1) % size]
            a, b = fans.corner[first + one], fans.corner[first + two]
            if not forward[one] and forward[two] and partner[a] < 0 and partner[b] < 0:
                partner[a], partner[b] = b, a
    return partner


def pair_corners(geo: Geo) -> Indices:
    """Return, for the corner along each edge, the corner on the other side its face stays joined with ``(C,)``, or -1.

    At an edge with more than two faces, two that look away from each other into the same wedge are a pair: the solid
    between them stays whole. What finds no partner there stays open.
    """
    shape = geo.topology
    fans = _Fans(*shape.edge_corners, shape.corner_point, shape.corner_next, shape.corner_face)
    return _pairs(geo.positions, face_normals(geo), fans)
