"""How far and which way points move so that faces or borders keep a distance to where they were."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from reticula.core.arrays import Floats, Indices
from reticula.core.jit import BLOCKS, inline, kernel, parallel_kernel, prange

__all__ = ["Corners", "border_offsets", "corner_insets", "even_offsets"]

MOST_SPIKE = 8.0
"""An even offset moves no point by more than this many times the distance, however sharp the edge."""
FOLDED = 1e-12
"""Where an edge folds back on the one before (1 - cos of the angle between them), the corner between has no inside."""
FLAT = 1e-3
"""Planes whose normals span less than this share of a direction do not decide about it."""


@inline
def _eigen3(a: Floats, v: Floats) -> None:
    """Diagonalise a symmetric 3 x 3 matrix in place by Jacobi rotations; columns of ``v`` become eigenvectors."""
    for i in range(3):
        for j in range(3):
            v[i, j] = 1.0 if i == j else 0.0
    for _ in range(12):
        off = a[0, 1] * a[0, 1] + a[0, 2] * a[0, 2] + a[1, 2] * a[1, 2]
        if off < 1e-30:
            return
        for p in range(2):
            for q in range(p + 1, 3):
                if abs(a[p, q]) < 1e-300:
                    continue
                theta = (a[q, q] - a[p, p]) / (2.0 * a[p, q])
                t = (1.0 if theta >= 0.0 else -1.0) / (abs(theta) + np.sqrt(theta * theta + 1.0))
                c = 1.0 / np.sqrt(t * t + 1.0)
                s = t * c
                for k in range(3):
                    x, y = a[k, p], a[k, q]
                    a[k, p], a[k, q] = c * x - s * y, s * x + c * y
                for k in range(3):
                    x, y = a[p, k], a[q, k]
                    a[p, k], a[q, k] = c * x - s * y, s * x + c * y
                for k in range(3):
                    x, y = v[k, p], v[k, q]
                    v[k, p], v[k, q] = c * x - s * y, s * x + c * y


class _Around(NamedTuple):
    """The arguments of :func:`even_offsets`."""

    start: Indices
    face: Indices
    normals: Floats
    areas: Floats
    distance: Floats


class _Room(NamedTuple):
    """Room for one point: the normal equations ``a (3, 3)`` and ``b (3,)``, and eigenvectors ``v (3, 3)``."""

    a: Floats
    v: Floats
    b: Floats


@inline
def _even_offset(around: _Around, r: int, room: _Room, out: Floats) -> None:
    start, face, normals, areas, distance = around
    a, v, b = room
    first = face[start[r]]
    x, y, z = normals[first, 0], normals[first, 1], normals[first, 2]
    alike = True
    for k in range(start[r] + 1, start[r + 1]):
        f = face[k]
        alike = alike and x * normals[f, 0] + y * normals[f, 1] + z * normals[f, 2] > 1.0 - 1e-12
    if alike:
        far = 0.0
        for k in range(start[r], start[r + 1]):
            far += distance[k] / (start[r + 1] - start[r])
        for i in range(3):
            out[r, i] = normals[first, i] * far
        return
    a[:], b[:] = 0.0, 0.0
    total, most = 0.0, 0.0
    for k in range(start[r], start[r + 1]):
        n, area = normals[face[k]], areas[face[k]]
        w = 1.0 if area[0] != 0.0 or area[1] != 0.0 or area[2] != 0.0 else 0.0
        total += w
        most = max(most, abs(distance[k]))
        for i in range(3):
            b[i] += w * distance[k] * n[i]
            for j in range(3):
                a[i, j] += w * n[i] * n[j]
    if total <= 0.0 or most == 0.0:
        return
    for i in range(3):
        b[i] /= total
        for j in range(3):
            a[i, j] /= total
    _eigen3(a, v)
    for m in range(3):
        if a[m, m] > FLAT:
            along = (v[0, m] * b[0] + v[1, m] * b[1] + v[2, m] * b[2]) / a[m, m]
            for i in range(3):
                out[r, i] += along * v[i, m]
    x, y, z = out[r]
    length = np.sqrt(x * x + y * y + z * z)
    scale = min(1.0, MOST_SPIKE * most / length) if length > 0.0 else 1.0
    for i in range(3):
        out[r, i] *= scale


@parallel_kernel
def even_offsets(start: Indices, face: Indices, normals: Floats, areas: Floats, distance: Floats) -> Floats:
    """Return the move of each point ``(R, 3)`` by which the planes of its faces move by ``distance``, in m.

    ``start (R+1,)`` and ``face`` list the faces around each point, ``normals (F, 3)`` are unit; faces whose
    ``areas (F, 3)`` (area times normal) are 0 do not count. ``distance`` is given per listed face. The move is the
    least-squares meeting place of the moved planes, shortest where they leave it open.
    """
    out = np.zeros((len(start) - 1, 3))
    around = _Around(start, face, normals, areas, distance)
    points = len(start) - 1
    for block in prange(BLOCKS):
        room = _Room(np.empty((3, 3)), np.empty((3, 3)), np.empty(3))
        for r in range(block * points // BLOCKS, (block + 1) * points // BLOCKS):
            _even_offset(around, r, room, out)
    return out


class Corners(NamedTuple):
    """Per corner: its point, the next corner of its face, and its face ``(C,)``."""

    point: Indices
    following: Indices
    face: Indices


@kernel
def border_offsets(
    wall: Indices, number: Indices, corners: Corners, positions: Floats, normals: Floats, count: int
) -> Floats:
    """Return, per raised point ``(R, 3)``, the move that shifts its border edges inwards by 1 m in the faces' planes.

    ``wall`` lists the corners whose edges are borders, ``number (C,)`` is the raised point of each corner; points on no
    border get 0.
    """
    corner_point, following, corner_face = corners.point, corners.following, corners.face
    total = np.zeros((count, 3))
    dots = np.zeros(count)
    inward = np.zeros((count, 3))
    met = np.zeros(count, np.int32)
    for k in range(len(wall)):
        c = wall[k]
        a, b, n = corner_point[c], corner_point[following[c]], normals[corner_face[c]]
        ex, ey, ez = (
            positions[b, 0] - positions[a, 0],
            positions[b, 1] - positions[a, 1],
            positions[b, 2] - positions[a, 2],
        )
        x, y, z = n[1] * ez - n[2] * ey, n[2] * ex - n[0] * ez, n[0] * ey - n[1] * ex
        length = np.sqrt(x * x + y * y + z * z)
        if length == 0.0:
            continue
        x, y, z = x / length, y / length, z / length
        for r in (number[c], number[following[c]]):
            if met[r]:
                dots[r] = inward[r, 0] * x + inward[r, 1] * y + inward[r, 2] * z
            met[r] += 1
            inward[r, 0], inward[r, 1], inward[r, 2] = x, y, z
            total[r, 0] += x
            total[r, 1] += y
            total[r, 2] += z
    for r in range(count):
        scale = 1.0 / met[r] if met[r] else 0.0
        if met[r] == 2:
            scale = 1.0 / (1.0 + dots[r]) if 1.0 + dots[r] > FOLDED else 0.0
        for i in range(3):
            total[r, i] *= scale
    return total


@parallel_kernel
def corner_insets(positions: Floats, face_start: Indices, corner_point: Indices, normals: Floats) -> Floats:
    """Return the move of each corner ``(C, 3)`` by which all edges of its face move inwards by 1 m, in its plane."""
    out = np.zeros((len(corner_point), 3))
    for f in prange(len(face_start) - 1):
        first, last = face_start[f], face_start[f + 1]
        size = last - first
        n = normals[f]
        u, v = np.zeros(3), np.zeros(3)
        for c in range(first, last):
            p = corner_point[c]
            lu = lv = 0.0
            for step in range(1, size):
                q = corner_point[first + (c - first + step) % size]
                for i in range(3):
                    u[i] = positions[q, i] - positions[p, i]
                lu = np.sqrt(u[0] * u[0] + u[1] * u[1] + u[2] * u[2])
                if lu > 0.0:
                    break
            for step in range(1, size):
                q = corner_point[first + (c - first - step) % size]
                for i in range(3):
                    v[i] = positions[q, i] - positions[p, i]
                lv = np.sqrt(v[0] * v[0] + v[1] * v[1] + v[2] * v[2])
                if lv > 0.0:
                    break
            if lu == 0.0 or lv == 0.0:
                continue
            ax, ay, az = (
                (n[1] * u[2] - n[2] * u[1]) / lu,
                (n[2] * u[0] - n[0] * u[2]) / lu,
                (n[0] * u[1] - n[1] * u[0]) / lu,
            )
            bx, by, bz = (
                (v[1] * n[2] - v[2] * n[1]) / lv,
                (v[2] * n[0] - v[0] * n[2]) / lv,
                (v[0] * n[1] - v[1] * n[0]) / lv,
            )
            open_ = 1.0 + ax * bx + ay * by + az * bz
            scale = 1.0 / open_ if open_ > FOLDED else 0.0
            out[c, 0], out[c, 1], out[c, 2] = (ax + bx) * scale, (ay + by) * scale, (az + bz) * scale
    return out
