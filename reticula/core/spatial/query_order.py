"""The order in which many questions are put to a tree: those that are near each other in space one after the other.

They walk down the same branches then, which are still in the processor's caches.
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from reticula.core.arrays import AnyArray, Floats, Indices, as_readonly, sealed
from reticula.core.jit import inline, parallel_kernel, prange
from reticula.core.rows import rows_at

__all__ = ["Order", "query_order"]

MANY = 1 << 13
"""Questions from which on an order is worth finding."""
LOOKED_AT = 256
"""Pairs of neighbours that tell whether questions come in an order already."""
NEAR = 1.0 / 32.0
"""Neighbours are near each other if they are within this share of the extent."""
CELLS = 1023
"""Cells along each axis, less one: ten bits of each go into a code."""


class Order(NamedTuple):
    """The ``number (N,)`` of each question, in the order in which they are put; ``moved`` if that is another one."""

    number: Indices
    moved: bool

    def of(self, rows: AnyArray) -> AnyArray:
        """Return what belongs to each question ``(N, ...)`` in this order."""
        return as_readonly(rows_at(rows, self.number)) if self.moved else rows


def query_order(places: Floats) -> Order:
    """Return an order of questions at ``places (N, 3)``.

    They are sorted by Morton code (Morton, "A computer oriented geodetic data base and a new technique in file
    sequencing", IBM, 1966), unless they are few or come in a good order, as the points of most meshes do.
    """
    count = len(places)
    if count < MANY:
        return Order(as_readonly(np.arange(count, dtype=np.int32)), False)
    some = np.linspace(0, count - 2, LOOKED_AT).astype(np.int64)
    looked = places[some]
    size = float(np.ptp(looked, axis=0).max())
    steps = np.abs(places[some + 1] - looked).max(axis=1)
    if not size > 0.0 or np.median(steps) <= NEAR * size:
        return Order(as_readonly(np.arange(count, dtype=np.int32)), False)
    order = np.argsort(_codes(sealed(places), looked.min(axis=0), CELLS / size))
    return Order(as_readonly(order.astype(np.int32)), True)


@inline
def _spread(cell: int) -> int:
    """The ten bits of a number with two empty ones before each."""
    x = (cell | (cell << 16)) & 0x030000FF
    x = (x | (x << 8)) & 0x0300F00F
    x = (x | (x << 4)) & 0x030C30C3
    return (x | (x << 2)) & 0x09249249


@parallel_kernel
def _codes(places: Floats, low: Floats, scale: float) -> AnyArray:
    out = np.empty(len(places), np.int32)
    for i in prange(len(places)):
        code = 0
        for k in range(3):
            cell = min(max((places[i, k] - low[k]) * scale, 0.0), 1023.0)
            code |= _spread(int(cell)) << k
        out[i] = code
    return out
