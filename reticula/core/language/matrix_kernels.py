"""Determinants and inverses of matrices, number by number and for arrays of them: the same for both back ends."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Floats
from reticula.core.jit import inline, inline_making, kernel

__all__ = ["determinant3", "determinant4", "determinants", "inverse3", "inverse4", "inverses"]


@inline
def determinant3(*values: float) -> float:
    a, b, c, d, e, f, g, h, i = values
    return a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g)


@inline
def inverse3(*values: float) -> tuple[float, ...]:
    a, b, c, d, e, f, g, h, i = values
    det = determinant3(a, b, c, d, e, f, g, h, i)
    k = 1.0 / det if det != 0.0 else 0.0
    return (
        (e * i - f * h) * k,
        (c * h - b * i) * k,
        (b * f - c * e) * k,
        (f * g - d * i) * k,
        (a * i - c * g) * k,
        (c * d - a * f) * k,
        (d * h - e * g) * k,
        (b * g - a * h) * k,
        (a * e - b * d) * k,
    )


@inline_making
def _square(values: tuple[float, ...]) -> Floats:
    m = np.empty((4, 4))
    for k in range(16):
        m[k // 4, k % 4] = values[k]
    return m


@inline_making
def determinant4(*values: float) -> float:
    return np.linalg.det(_square(values))


@inline_making
def inverse4(*values: float) -> tuple[float, ...]:
    m = _square(values)
    n = np.zeros((4, 4))
    if np.linalg.det(m) != 0.0:
        n[:] = np.linalg.inv(m)
    return (
        n[0, 0],
        n[0, 1],
        n[0, 2],
        n[0, 3],
        n[1, 0],
        n[1, 1],
        n[1, 2],
        n[1, 3],
        n[2, 0],
        n[2, 1],
        n[2, 2],
        n[2, 3],
        n[3, 0],
        n[3, 1],
        n[3, 2],
        n[3, 3],
    )


@kernel
def determinants(m: Floats) -> Floats:
    """Return the determinants ``(N,)`` of ``m (N, 3, 3)`` or ``(N, 4, 4)``."""
    out = np.empty(len(m))
    for i in range(len(m)):
        v = m[i].copy().reshape(-1)
        if m.shape[1] == 3:
            out[i] = determinant3(v[0], v[1], v[2], v[3], v[4], v[5], v[6], v[7], v[8])
        else:
            out[i] = np.linalg.det(m[i].copy())
    return out


@kernel
def inverses(m: Floats) -> Floats:
    """Return the inverses of ``m (N, 3, 3)`` or ``(N, 4, 4)``; 0 where there is none."""
    out = np.zeros(m.shape)
    for i in range(len(m)):
        if m.shape[1] == 4:
            if np.linalg.det(m[i].copy()) != 0.0:
                out[i] = np.linalg.inv(m[i].copy())
            continue
        v = m[i].copy().reshape(-1)
        made = inverse3(v[0], v[1], v[2], v[3], v[4], v[5], v[6], v[7], v[8])
        for k in range(9):
            out[i, k // 3, k % 3] = made[k]
    return out
