"""Frames along curves that do not twist."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from reticula.core.arrays import Flags, Floats, Indices
from reticula.core.jit import inline, inline_making, parallel_kernel, prange

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


class _Curve(NamedTuple):
    """One curve: its rows ``first`` to ``last`` of ``point``."""

    positions: Floats
    point: Indices
    first: int
    last: int
    closed: bool


@inline
def _step(curve: _Curve, q: int, h: int, out: Floats) -> None:
    """Write the way from curve point ``q`` to ``h``."""
    for i in range(3):
        out[i] = curve.positions[curve.point[h], i] - curve.positions[curve.point[q], i]


@inline
def _cross(t: Floats, n: Floats) -> tuple[float, float, float]:
    return t[1] * n[2] - t[2] * n[1], t[2] * n[0] - t[0] * n[2], t[0] * n[1] - t[1] * n[0]


@inline_making
def _tangents(curve: _Curve, tangent: Floats, cosine: Floats) -> None:
    """Write the direction that halves the bend at each point, and the cosine of half the bend."""
    first, last, closed = curve.first, curve.last, curve.closed
    a, b, v = np.zeros(3), np.zeros(3), np.zeros(3)
    for q in range(first, last):
        before = q - 1 if q > first else (last - 1 if closed else q)
        after = q + 1 if q + 1 < last else (first if closed else q)
        _step(curve, before, q, a)
        _step(curve, q, after, b)
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


@inline
def _first_normal(t: Floats, up: Floats, out: Floats) -> None:
    """Write the direction across a tangent that is as near to ``up`` as it can be."""
    dot = up[0] * t[0] + up[1] * t[1] + up[2] * t[2]
    for i in range(3):
        out[i] = up[i] - dot * t[i]
    if out[0] * out[0] + out[1] * out[1] + out[2] * out[2] < 1e-6:
        axis = 0
        for i in range(1, 3):
            if abs(t[i]) < abs(t[axis]):
                axis = i
        for i in range(3):
            out[i] = (1.0 if i == axis else 0.0) - t[axis] * t[i]
    _unit3(out)


@inline_making
def _carry_normals(curve: _Curve, tangent: Floats, normal: Floats, v: Floats) -> float:
    """Carry the first normal along by double reflection; ``v`` gets the last one. Returns the length of the curve."""
    first, last = curve.first, curve.last
    a, b, w = np.zeros(3), np.zeros(3), np.zeros(3)
    along = 0.0
    for step in range(last - first if curve.closed else last - first - 1):
        q = first + step
        h = q + 1 if q + 1 < last else first
        _step(curve, q, h, a)
        for i in range(3):
            v[i], w[i] = normal[q, i], tangent[q, i]
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
    return along


@inline_making
def _spread_twist(curve: _Curve, tangent: Floats, normal: Floats, v: Floats, along: float) -> None:
    """Turn the normals of a closed curve so that the one that comes back meets the first, evenly along the length."""
    first, last = curve.first, curve.last
    a, n = np.zeros(3), normal[first]
    cx, cy, cz = _cross(tangent[first], n)
    rest = np.arctan2(v[0] * cx + v[1] * cy + v[2] * cz, v[0] * n[0] + v[1] * n[1] + v[2] * n[2])
    done = 0.0
    for q in range(first + 1, last):
        _step(curve, q - 1, q, a)
        done += np.sqrt(a[0] * a[0] + a[1] * a[1] + a[2] * a[2])
        angle = -rest * done / along
        n = normal[q]
        cx, cy, cz = _cross(tangent[q], n)
        c, s = np.cos(angle), np.sin(angle)
        n[0], n[1], n[2] = c * n[0] + s * cx, c * n[1] + s * cy, c * n[2] + s * cz


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
        curve = _Curve(positions, point, start[k], start[k + 1], closed[k])
        v = np.zeros(3)
        _tangents(curve, tangent, cosine)
        _first_normal(tangent[start[k]], up, v)
        for i in range(3):
            normal[start[k], i] = v[i]
        along = _carry_normals(curve, tangent, normal, v)
        if closed[k] and along > 0.0:
            _spread_twist(curve, tangent, normal, v, along)
    return tangent, normal, cosine
