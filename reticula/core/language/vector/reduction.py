"""Lists of values per element, reduced to one value each."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray
from reticula.core.geometry.mesh.incidence import ragged_reduce

__all__ = ["reduce"]


def reduce(how: str, start: AnyArray, values: AnyArray) -> AnyArray:
    """Return one value per row of a ragged array: ``start (N+1,)``, ``values (M, ...)``.

    ``how`` is mean, sum, min, max, any, all, median or deviation (of the row itself, not of a sample of it). An empty
    row gives 0, no, or for ``all`` yes.
    """
    if how == "median":
        return _median(start, values)
    if how == "deviation":
        middle = ragged_reduce("mean", start, values.astype(np.float64))
        away = values - np.repeat(middle, np.diff(start))
        return np.sqrt(ragged_reduce("mean", start, away * away))
    return ragged_reduce(how, start, values)


def _median(start: AnyArray, values: AnyArray) -> AnyArray:
    sizes = np.diff(start)
    owner = np.repeat(np.arange(len(sizes)), sizes)
    ranked = values[np.lexsort((values, owner))].astype(np.float64)
    out = np.zeros(len(sizes))
    filled = sizes > 0
    low, high = start[:-1] + (sizes - 1) // 2, start[:-1] + sizes // 2
    out[filled] = 0.5 * (ranked[low[filled]] + ranked[high[filled]])
    return out
