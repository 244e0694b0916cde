"""How far the corners of faces may move in a straight line before a face crosses itself or turns over."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Flags, Floats, Indices
from reticula.core.jit import BLOCKS, inline, kernel, parallel_kernel, prange

__all__ = ["crossing_limits", "plane_axes"]

ROOM = 64
"""Corners of a face that there is room for at first."""
ON = 1e-9
"""A corner within this share of an edge's length beyond its ends still meets the edge."""


@kernel
def plane_axes(normal: Floats) -> Floats:
    """Return two unit directions ``(2, 3)`` that span the plane across a unit ``normal (3,)``, counter-clockwise."""
    out = np.zeros((2, 3))
    least = 0
    for i in range(1, 3):
        if abs(normal[i]) < abs(normal[least]):
            least = i
    along = normal[least]
    length = np.sqrt(max(1.0 - along * along, 0.0))
    if length == 0.0:
        return out
    for i in range(3):
        out[0, i] = ((1.0 if i == least else 0.0) - along * normal[i]) / length
    out[1, 0] = normal[1] * out[0, 2] - normal[2] * out[0, 1]
    out[1, 1] = normal[2] * out[0, 0] - normal[0] * out[0, 2]
    out[1, 2] = normal[0] * out[0, 1] - normal[1] * out[0, 0]
    return out


@inline
def _meets_at(at: Floats, way: Floats, v: int, a: int, b: int, sign: float) -> float:
    """When corner ``v`` crosses the edge from ``a`` to ``b``, coming from its left side if ``sign`` is 1, right if -1;
    inf if never. All move along ``way (n, 2)`` from ``at (n, 2)``. Where they touch at first, what counts is whether
    the corner goes into the edge then, so that polygons with bridges to their holes may move.
    """
    ex, ey = at[b, 0] - at[a, 0], at[b, 1] - at[a, 1]
    fx, fy = way[b, 0] - way[a, 0], way[b, 1] - way[a, 1]
    px, py = at[v, 0] - at[a, 0], at[v, 1] - at[a, 1]
    qx, qy = way[v, 0] - way[a, 0], way[v, 1] - way[a, 1]
    c0 = sign * (ex * py - ey * px)
    c1 = sign * (ex * qy - ey * qx + fx * py - fy * px)
    c2 = sign * (fx * qy - fy * qx)
    root = c1 * c1 - 4.0 * c0 * c2
    if root < 0.0:
        return np.inf
    half = -0.5 * (c1 + (np.sqrt(root) if c1 >= 0.0 else -np.sqrt(root)))
    least = np.inf
    for t in (half / c2, c0 / half):
        if not c1 + 2.0 * c2 * t <= 0.0:
            continue
        if not 0.0 <= t < least:
            continue
        speed, size = abs(qx) + abs(qy) + abs(fx) + abs(fy), abs(ex) + abs(ey)
        begins = t * speed <= ON * size
        near = 0.0 if begins else ON
        after = 1e-6 * size / speed if begins and speed > 0.0 else t
        gx, gy = ex + after * fx, ey + after * fy
        length = gx * gx + gy * gy
        along = gx * (px + after * qx) + gy * (py + after * qy)
        if -near * length <= along <= (1.0 + near) * length:
            least = t
    return least


@inline
def _vanishes_at(at: Floats, way: Floats, a: int, b: int) -> float:
    """When the edge from ``a`` to ``b`` has shrunk to nothing; inf if it does not."""
    ex, ey = at[b, 0] - at[a, 0], at[b, 1] - at[a, 1]
    fx, fy = way[b, 0] - way[a, 0], way[b, 1] - way[a, 1]
    length, rate = ex * ex + ey * ey, -(ex * fx + ey * fy)
    if rate <= 0.0 or length == 0.0:
        return np.inf
    t = length / rate
    gx, gy = ex + t * fx, ey + t * fy
    return t if gx * gx + gy * gy <= 1e-18 * length else np.inf


@inline
def _beside(at: Floats, i: int, step: int) -> int:
    """The next corner, forwards or backwards, that does not stand at the same place."""
    size, j = len(at), i
    for _ in range(size):
        j = (j + step) % size
        if at[j, 0] != at[i, 0] or at[j, 1] != at[i, 1]:
            break
    return j


@inline
def _face_limit(at: Floats, way: Floats, hollow: Flags) -> float:
    """When a polygon with corners ``at (n, 2)`` that move along ``way (n, 2)`` first touches itself; inf if never.

    ``hollow (n,)`` is room to work in.
    """
    size = len(at)
    any_hollow = False
    for i in range(size):
        h, j = _beside(at, i, -1), _beside(at, i, 1)
        turn = (at[i, 0] - at[h, 0]) * (at[j, 1] - at[i, 1]) - (at[i, 1] - at[h, 1]) * (at[j, 0] - at[i, 0])
        hollow[i] = turn < 0.0
        any_hollow = any_hollow or hollow[i]
    least = np.inf
    for i in range(size):
        least = min(least, _vanishes_at(at, way, i, (i + 1) % size))
        one, two = (i + 1) % size, (i + 2) % size
        back, far = (i - 1) % size, (i - 2) % size
        for sign in (1.0, -1.0):
            least = min(least, _meets_at(at, way, i, one, two, sign))
            if size > 3:  # of a triangle that is the same edge
                least = min(least, _meets_at(at, way, i, far, back, sign))
        if not any_hollow:
            continue
        sign = 1.0 if hollow[i] else -1.0
        for step in range(2, size - 2):
            a = (i + step) % size
            least = min(least, _meets_at(at, way, i, a, (a + 1) % size, sign))
    return least


@parallel_kernel
def crossing_limits(at: Floats, moves: Floats, face_start: Indices, normals: Floats, wanted: Flags) -> Floats:
    """Return the share of ``moves`` at which each face first touches itself ``(F,)``; inf where it never does.

    ``at (C, 3)`` is where each corner starts, ``moves (C, 3)`` how far it goes, both seen along the unit ``normals
    (F, 3)``. A face touches itself where an edge has shrunk to nothing (an edge event) or a corner meets another edge
    (a split event; Aichholzer & Aurenhammer 1996, there for edges that move at equal speed, here for corners that move
    at any). A polygon without hollow corners takes linear time, others the product of corners and edges. Faces that
    are not ``wanted (F,)`` get inf.
    """
    faces = len(face_start) - 1
    out = np.full(faces, np.inf)
    for block in prange(BLOCKS):
        flat, way, hollow = np.empty((ROOM, 2)), np.empty((ROOM, 2)), np.empty(ROOM, np.bool_)
        for f in range(block * faces // BLOCKS, (block + 1) * faces // BLOCKS):
            first, size = face_start[f], face_start[f + 1] - face_start[f]
            if not wanted[f] or size < 3:
                continue
            if size > len(flat):
                flat, way, hollow = np.empty((size, 2)), np.empty((size, 2)), np.empty(size, np.bool_)
            axes = plane_axes(normals[f])
            for i in range(size):
                for k in range(2):
                    flat[i, k] = way[i, k] = 0.0
                    for m in range(3):
                        flat[i, k] += (at[first + i, m] - at[first, m]) * axes[k, m]
                        way[i, k] += moves[first + i, m] * axes[k, m]
            out[f] = _face_limit(flat[:size], way[:size], hollow[:size])
    return out
