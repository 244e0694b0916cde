"""Array types used throughout the core, and small helpers on ragged (CSR) arrays."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

__all__ = [
    "AnyArray",
    "Flags",
    "Floats",
    "Indices",
    "Ints",
    "UInts",
    "as_readonly",
    "as_rows",
    "edge_keys",
    "flat_rows",
    "following_in_rows",
    "ragged_index",
    "sealed",
    "starts_from_sizes",
]

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]
Indices = NDArray[np.int32]
"""Element indices. 32 bits: a geometry holds fewer than 2**31 corners."""
Flags = NDArray[np.bool_]
UInts = NDArray[np.uint64]
AnyArray = NDArray[Any]


def as_readonly(array: AnyArray) -> AnyArray:
    """Return ``array`` as a C-contiguous array that cannot be written to.

    A writeable array that owns its memory is frozen in place, so pass a copy if you mean to go on writing.
    """
    array = np.ascontiguousarray(array)
    if array.flags.writeable:
        array = array.view()
        array.flags.writeable = False
    return array


def sealed(values: AnyArray) -> Floats:
    """Return numbers as kernels take them: they are compiled for arrays that cannot be written to, once, and not again
    for those that can.
    """
    return as_readonly(np.asarray(values, np.float64))


def edge_keys(edges: AnyArray, count: int) -> Ints:
    """Return a number for each edge ``(E, 2)`` between ``count`` points, whichever way it goes."""
    low, high = edges.min(axis=1).astype(np.int64), edges.max(axis=1)
    return np.asarray(low * count + high)


def starts_from_sizes(sizes: AnyArray) -> Indices:
    """Return the CSR starts ``(N+1,)`` of rows with the given ``sizes (N,)``."""
    start = np.zeros(len(sizes) + 1, np.int64)
    np.cumsum(sizes, out=start[1:])
    return start.astype(np.int32)


def flat_rows(values: AnyArray) -> Floats:
    """Return ``values (N, ...)`` as contiguous rows of numbers ``(N, k)``."""
    width = int(np.prod(values.shape[1:], dtype=np.int64))
    return np.ascontiguousarray(values, np.float64).reshape(len(values), width)


def as_rows(values: AnyArray) -> AnyArray:
    """Return ``values (N, ...)`` as rows ``(N, k)`` of the same type; ``N`` may be 0."""
    return values.reshape(len(values), int(np.prod(values.shape[1:], dtype=np.int64)))


def ragged_index(start: AnyArray, rows: AnyArray) -> tuple[AnyArray, Indices]:
    """Return the flat indices of some ``rows`` of a ragged array, and the starts of the result.

    ``start`` is ``(N+1,)``, ``rows`` is ``(M,)``; a row of -1 is empty.
    """
    safe = np.maximum(rows, 0)
    sizes = np.where(rows >= 0, start[safe + 1] - start[safe], 0) if len(start) > 1 else np.zeros(len(rows), np.int64)
    new_start = starts_from_sizes(sizes)
    flat = np.arange(new_start[-1], dtype=np.int64)
    if len(flat):
        flat += np.repeat(start[safe].astype(np.int64) - new_start[:-1], sizes)
    return flat, new_start


def following_in_rows(start: AnyArray) -> AnyArray:
    """Return for each element of a ragged array the index of the one after it in its row, of the last one the first
    ``(start[-1],)``; ``start`` is ``(N+1,)``, rows may be empty.
    """
    out = np.arange(1, int(start[-1]) + 1)
    filled = np.flatnonzero(start[1:] > start[:-1])
    out[start[1:][filled] - 1] = start[:-1][filled]
    return out
