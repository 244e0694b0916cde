"""The least and the largest of numbers, column by column, past what is no finite number."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray, Floats
from reticula.core.jit import kernel

__all__ = ["range_of_rows"]


def range_of_rows(rows: AnyArray) -> tuple[AnyArray, AnyArray] | None:
    """Return the lowest and the highest finite value of each column of ``rows (N, k)``, ``(k,)`` each; None if a column
    has none.
    """
    if rows.dtype.kind != "f":
        return (rows.min(axis=0), rows.max(axis=0)) if len(rows) else None
    low, high = _finite_range(np.ascontiguousarray(rows, np.float64))
    return (low, high) if (low <= high).all() else None


@kernel
def _finite_range(rows: Floats) -> tuple[Floats, Floats]:
    low, high = np.full(rows.shape[1], np.inf), np.full(rows.shape[1], -np.inf)
    for i in range(len(rows)):
        for k in range(rows.shape[1]):
            if np.isfinite(rows[i, k]):
                low[k] = min(low[k], rows[i, k])
                high[k] = max(high[k], rows[i, k])
    return low, high
