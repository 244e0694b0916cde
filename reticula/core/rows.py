"""Rows of short vectors: taken, measured and multiplied one by one, on all cores."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats, sealed
from reticula.core.jit import inline, parallel_kernel, prange

__all__ = ["dot3", "nonzero_rows", "row_crosses", "row_dots", "row_lengths", "rows_at", "unit"]


def rows_at(values: AnyArray, index: AnyArray) -> AnyArray:
    """Return ``values (N, ...)`` at the numbers ``index``: like indexing, and several times as fast for rows."""
    return np.take(values, index, axis=0)


def nonzero_rows(rows: AnyArray) -> Flags:
    """Return which rows ``(N, k)`` hold anything but zeros ``(N,)``, column by column: rows are short."""
    if rows.shape[1] == 3 and rows.dtype == np.float64:
        return _nonzero(sealed(rows))
    out = np.zeros(len(rows), bool)
    for column in range(rows.shape[1]):
        out |= rows[:, column] != 0
    return out


def row_dots(a: Floats, b: Floats) -> Floats:
    """Return the inner product of each row of ``a (N, k)`` and ``b (N, k)``, ``(N,)``."""
    if a.shape[1] != 3 or a.shape != b.shape:
        return np.asarray(np.einsum("ij,ij->i", a, b))
    return _dots(sealed(a), sealed(b))


def row_lengths(rows: Floats) -> Floats:
    """Return the length of each row ``(N, k)``, ``(N,)``."""
    if rows.shape[1] != 3:
        return np.linalg.norm(rows, axis=1)
    return _lengths(sealed(rows))


def row_crosses(a: Floats, b: Floats) -> Floats:
    """Return the cross product of each row of ``a (N, 3)`` and ``b (N, 3)``, ``(N, 3)``."""
    return _crosses(sealed(a), sealed(b))


def unit(vectors: Floats) -> Floats:
    """Return vectors ``(N, k)`` scaled to length 1; those of length 0 stay 0."""
    if vectors.shape[1] != 3:
        length = np.sqrt(np.einsum("ij,ij->i", vectors, vectors))[:, None]
        return np.divide(vectors, length, out=np.zeros_like(vectors), where=length > 0)
    return _unit(sealed(vectors))


@inline
def dot3(ax: float, ay: float, az: float, bx: float, by: float, bz: float) -> float:
    """Inner product in the order in which NumPy's einsum adds on wide registers: first and last, then the middle."""
    return (ax * bx + az * bz) + ay * by


@parallel_kernel
def _dots(a: Floats, b: Floats) -> Floats:
    out = np.empty(len(a))
    for i in prange(len(a)):
        out[i] = dot3(a[i, 0], a[i, 1], a[i, 2], b[i, 0], b[i, 1], b[i, 2])
    return out


@parallel_kernel
def _nonzero(rows: Floats) -> Flags:
    out = np.empty(len(rows), np.bool_)
    for i in prange(len(rows)):
        out[i] = rows[i, 0] != 0.0 or rows[i, 1] != 0.0 or rows[i, 2] != 0.0
    return out


@parallel_kernel
def _lengths(rows: Floats) -> Floats:
    out = np.empty(len(rows))
    for i in prange(len(rows)):
        x, y, z = rows[i, 0], rows[i, 1], rows[i, 2]
        out[i] = np.sqrt(x * x + y * y + z * z)
    return out


@parallel_kernel
def _crosses(a: Floats, b: Floats) -> Floats:
    out = np.empty((len(a), 3))
    for i in prange(len(a)):
        out[i, 0] = a[i, 1] * b[i, 2] - a[i, 2] * b[i, 1]
        out[i, 1] = a[i, 2] * b[i, 0] - a[i, 0] * b[i, 2]
        out[i, 2] = a[i, 0] * b[i, 1] - a[i, 1] * b[i, 0]
    return out


@parallel_kernel
def _unit(vectors: Floats) -> Floats:
    out = np.zeros((len(vectors), 3))
    for i in prange(len(vectors)):
        x, y, z = vectors[i, 0], vectors[i, 1], vectors[i, 2]
        length = np.sqrt(dot3(x, y, z, x, y, z))
        if length > 0.0:
            out[i, 0], out[i, 1], out[i, 2] = x / length, y / length, z / length
    return out
