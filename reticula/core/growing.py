"""Arrays that kernels fill row by row, and that grow meanwhile."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray
from reticula.core.jit import inline, inline_making

__all__ = ["copy_row", "with_room"]


@inline_making
def with_room(rows: AnyArray, needed: int) -> AnyArray:
    """Return the same rows in an array of at least ``needed``: itself, or one at least twice as long."""
    if needed <= len(rows):
        return rows
    more = max(len(rows), needed - len(rows))
    return np.concatenate((rows, np.empty((more,) + rows.shape[1:], rows.dtype)))


@inline
def copy_row(source: AnyArray, i: int, target: AnyArray, j: int) -> None:
    """Write row ``i`` of ``source (N, k)`` to row ``j`` of ``target (M, k)``; assigning a row would copy it first."""
    for column in range(source.shape[1]):
        target[j, column] = source[i, column]
