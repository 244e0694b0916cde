"""Frames along curves that do not twist."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Flags, Floats, Indices
from reticula.core.jit import inline, parallel_kernel, prange

__all__ = ["curve_frames"]


@inline
def _unit3(v: Floats) -> None:
    length = np.sqrt(v[0] * v[0] + v[1] * v[1] + v[2] * v[2])
    if length > 0.0:
        v[0] /= length
        v[1] /= length
        v[2] /= length


@inline
def _reflect(v: Floats, axis: Floats, length2: float) -> None:
    s = 2.0 * (v[0] * axis[0] + v[1] * axis[1] + v[2] * axis[2]) / length2
    v[0] -= s * axis[0]
    v[1] -= s * axis[1]
    v[2] -= s * axis[2]


@parallel_kernel
def curve_frames(
    positions: Floats, start: Indices, point: Indices, closed: Flags, up: Floats
) -> tuple[Floats, Floats, Floats]:
    """Return tangent, normal and the cosine of half the bend at each curve point ``(Q, 3), (Q, 3), (Q,)``.

    The tangent halves the bend. Normals are carried along by double reflection: Wang, Jüttler, Zheng & Liu,
    "Computation of rotation minimizing frames", ACM TOG 27(1), 2008; on closed curves the rest of the turn is spread
    evenly along the length. The first normal is as near to ``up (3,)`` as it can be.
    """
    count = len(point)
    tangent, normal, cosine = np.zeros((count, 3)), np.zeros((count, 3)), np.ones(count)
    for k in prange(len(start) - 1):
        first, last = start[k], start[k + 1]
        a, b, v = np.zeros(3), np.zeros(3), np.zeros(3)
        along = 0.0
        for q in range(first, last):
            before = q - 1 if q > first else (last - 1 if closed[k] else q)
            after = q + 1 if q + 1 < last else (first if closed[k] else q)
            for i in range(3):
                a[i] = positions[point[q], i] - positions[point[before], i]
                b[i] = positions[point[after], i] - positions[point[q], i]
            _unit3(a)
            _unit3(b)
            for i in range(3):
                v[i] = a[i] + b[i]
            size = np.sqrt(v[0] * v[0] + v[1] * v[1] + v[2] * v[2])
            if size < 1e-9:
                for i in range(3):
                    v[i] = b[i] if b[0] != 0.0 or b[1] != 0.0 or b[2] != 0.0 else a[i]
            elif a.any() and b.any():
                cosine[q] = 0.5 * size
            _unit3(v)
            for i in range(3):
                tangent[q, i] = v[i]
            if not v.any():
                for i in range(3):
                    tangent[q, i] = tangent[q - 1, i] if q > first else (1.0 if i == 0 else 0.0)
        t = tangent[first]
        dot = up[0] * t[0] + up[1] * t[1] + up[2] * t[2]
        for i in range(3):
            v[i] = up[i] - dot * t[i]
        if v[0] * v[0] + v[1] * v[1] + v[2] * v[2] < 1e-6:
            axis = 0
            for i in range(1, 3):
                if abs(t[i]) < abs(t[axis]):
                    axis = i
            for i in range(3):
                v[i] = (1.0 if i == axis else 0.0) - t[axis] * t[i]
        _unit3(v)
        for i in range(3):
            normal[first, i] = v[i]
        rounds = last - first if closed[k] else last - first - 1
        w = np.zeros(3)
        for step in range(rounds):
            q = first + step
            h = q + 1 if q + 1 < last else first
            for i in range(3):
                a[i] = positions[point[h], i] - positions[point[q], i]
                v[i] = normal[q, i]
                w[i] = tangent[q, i]
            c1 = a[0] * a[0] + a[1] * a[1] + a[2] * a[2]
            along += np.sqrt(c1)
            if c1 > 0.0:
                _reflect(v, a, c1)
                _reflect(w, a, c1)
                for i in range(3):
                    b[i] = tangent[h, i] - w[i]
                c2 = b[0] * b[0] + b[1] * b[1] + b[2] * b[2]
                if c2 > 1e-24:
                    _reflect(v, b, c2)
            if h != first:
                t = tangent[h]
                dot = v[0] * t[0] + v[1] * t[1] + v[2] * t[2]
                for i in range(3):
                    v[i] -= dot * t[i]
                _unit3(v)
                for i in range(3):
                    normal[h, i] = v[i]
        if closed[k] and along > 0.0:
            t, n = tangent[first], normal[first]
            cx, cy, cz = t[1] * n[2] - t[2] * n[1], t[2] * n[0] - t[0] * n[2], t[0] * n[1] - t[1] * n[0]
            rest = np.arctan2(v[0] * cx + v[1] * cy + v[2] * cz, v[0] * n[0] + v[1] * n[1] + v[2] * n[2])
            done = 0.0
            for q in range(first + 1, last):
                for i in range(3):
                    a[i] = positions[point[q], i] - positions[point[q - 1], i]
                done += np.sqrt(a[0] * a[0] + a[1] * a[1] + a[2] * a[2])
                angle = -rest * done / along
                t, n = tangent[q], normal[q]
                cx, cy, cz = t[1] * n[2] - t[2] * n[1], t[2] * n[0] - t[0] * n[2], t[0] * n[1] - t[1] * n[0]
                c, s = np.cos(angle), np.sin(angle)
                n[0], n[1], n[2] = c * n[0] + s * cx, c * n[1] + s * cy, c * n[2] + s * cz
    return tangent, normal, cosine
