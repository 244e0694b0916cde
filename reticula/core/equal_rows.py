"""Rows of numbers told apart exactly, in the order in which they first come."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray, Indices, Ints
from reticula.core.jit import kernel

__all__ = ["row_order", "unique_rows"]


@kernel
def _first_of_equal(rows: AnyArray, first: Ints, back: Ints, table: Indices) -> int:
    """Number the different rows; a table of open addresses, at most half full, holds their numbers.

    The hash is the finaliser of SplitMix64 (Steele, Lea & Flood, "Fast splittable pseudorandom number generators",
    OOPSLA 2014), taken over the columns one after the other.
    """
    mask = np.uint64(len(table) - 1)
    count = 0
    for i in range(len(rows)):
        code = np.uint64(0)
        for j in range(rows.shape[1]):
            code = (code ^ np.uint64(rows[i, j])) * np.uint64(0xBF58476D1CE4E5B9)
            code = (code ^ (code >> np.uint64(27))) * np.uint64(0x94D049BB133111EB)
            code ^= code >> np.uint64(31)
        at = code & mask
        while True:
            known = table[at]
            if known < 0:
                table[at] = count
                first[count] = i
                back[i] = count
                count += 1
                break
            there = first[known]
            same = True
            for j in range(rows.shape[1]):
                if rows[there, j] != rows[i, j]:
                    same = False
                    break
            if same:
                back[i] = known
                break
            at = (at + np.uint64(1)) & mask
    return count


def unique_rows(rows: AnyArray) -> tuple[AnyArray, AnyArray]:
    """Return where each different row of integers ``(N, k)`` stands first, and for each row which one it is ``(N,)``.

    The different rows come in order of their first place.
    """
    rows = np.ascontiguousarray(rows, np.int64)
    first, back = np.empty(len(rows), np.int64), np.empty(len(rows), np.int64)
    table = np.full(1 << (2 * max(len(rows), 1) - 1).bit_length(), -1, np.int32)
    return first[: _first_of_equal(rows, first, back, table)].copy(), back


def row_order(rows: AnyArray) -> AnyArray:
    """Return the order ``(N,)`` of rows ``(N, k)`` by their columns, the first one first; equal rows stay in order."""
    order = np.argsort(rows[:, 0], kind="stable")
    first = rows[order, 0]
    same = np.flatnonzero(first[1:] == first[:-1])
    if not len(same):
        return order
    tied = np.zeros(len(rows), bool)
    tied[same] = tied[same + 1] = True
    at = np.flatnonzero(tied)
    part = rows[order[at]]
    order[at] = order[at][np.lexsort(part.T[::-1])]
    return order
