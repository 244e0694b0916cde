"""Lists of values per element, reduced to one value each."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray

__all__ = ["REDUCERS", "reduce"]

REDUCERS = {
    "sum": np.add, "mean": np.add, "min": np.minimum, "max": np.maximum, "any": np.logical_or, "all": np.logical_and
}  # fmt: skip


def reduce(how: str, start: AnyArray, values: AnyArray) -> AnyArray:
    """Return one value per row of a ragged array: ``start (N+1,)``, ``values (M, ...)``.

    ``how`` is mean, sum, min, max, any, all, median or deviation (of the whole row, not of a sample of it). An empty
    row gives 0, no, or for ``all`` yes.
    """
    sizes = np.diff(start)
    filled = sizes > 0
    if how == "median":
        return _median(start, values, sizes)
    if how == "deviation":
        middle = reduce("mean", start, values)
        spread = values - np.repeat(middle, sizes)
        return np.sqrt(reduce("mean", start, spread * spread))
    kind = np.int64 if values.dtype.kind == "i" and how == "sum" else values.dtype
    out = np.zeros((len(sizes), *values.shape[1:]), kind)
    if how == "all":
        out[...] = True
    if filled.any():
        out[filled] = REDUCERS[how].reduceat(values, start[:-1][filled], axis=0)
    if how == "mean":
        return out / np.maximum(sizes, 1).reshape(-1, *([1] * (values.ndim - 1)))
    return out


def _median(start: AnyArray, values: AnyArray, sizes: AnyArray) -> AnyArray:
    owner = np.repeat(np.arange(len(sizes)), sizes)
    ranked = values[np.lexsort((values, owner))].astype(np.float64)
    out = np.zeros(len(sizes))
    filled = sizes > 0
    low, high = start[:-1] + (sizes - 1) // 2, start[:-1] + sizes // 2
    out[filled] = 0.5 * (ranked[low[filled]] + ranked[high[filled]])
    return out
