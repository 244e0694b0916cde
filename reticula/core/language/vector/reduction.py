"""Lists of values per element, reduced to one value each."""

from __future__ import annotations

import itertools
import math

import numpy as np

from reticula.core.arrays import AnyArray
from reticula.core.geometry.mesh.incidence import ragged_reduce
from reticula.core.language.functions.symbols import LARGEST, SAFE
from reticula.core.language.math_kernels import folded

__all__ = ["reduce"]


def reduce(how: str, start: AnyArray, values: AnyArray) -> AnyArray:
    """Return one value per row of a ragged array: ``start (N+1,)``, ``values (M, ...)``.

    ``how`` is mean, sum, min, max, any, all, median or deviation (of the row itself, not of a sample of it). An empty
    row gives 0, no, or for ``all`` yes. Raises OverflowError for a sum of integers beyond 64 bits.
    """
    if how == "median":
        return _median(start, values)
    if how == "deviation":
        middle = _mean(start, values)
        away = values - np.repeat(middle, np.diff(start))
        return np.sqrt(_mean(start, away * away))
    if how == "mean":
        return _mean(start, values)
    if how == "sum" and values.dtype.kind == "f":
        return _sum(start, values)
    if how == "sum" and values.dtype.kind == "i":
        _check_whole(start, values)
    return ragged_reduce(how, start, values)


def _check_whole(start: AnyArray, values: AnyArray) -> None:
    """Raise OverflowError if a sum of integers grows beyond 64 bits on its way from the first item to the last."""
    if not len(values) or float(np.abs(values.astype(np.float64)).max()) * int(np.diff(start).max()) < SAFE:
        return
    for begin, end in itertools.pairwise(start.tolist()):
        if np.abs(values[begin:end].astype(np.float64)).sum() < SAFE:
            continue
        if any(abs(total) > LARGEST for total in itertools.accumulate(values[begin:end].tolist())):
            raise OverflowError


def _sum(start: AnyArray, values: AnyArray) -> AnyArray:
    """Sums from the first item to the last, as compiled code does."""
    rows = np.ascontiguousarray(values.reshape(len(values), math.prod(values.shape[1:])), np.float64)
    return folded(np.asarray(start, np.int64), rows).reshape(len(start) - 1, *values.shape[1:])


def _mean(start: AnyArray, values: AnyArray) -> AnyArray:
    sizes = np.maximum(np.diff(start), 1).reshape(-1, *([1] * (values.ndim - 1)))
    return _sum(start, values) / sizes


def _median(start: AnyArray, values: AnyArray) -> AnyArray:
    sizes = np.diff(start)
    owner = np.repeat(np.arange(len(sizes)), sizes)
    ranked = values[np.lexsort((values, owner))].astype(np.float64)
    out = np.zeros(len(sizes))
    filled = sizes > 0
    low, high = start[:-1] + (sizes - 1) // 2, start[:-1] + sizes // 2
    out[filled] = 0.5 * (ranked[low[filled]] + ranked[high[filled]])
    return out
