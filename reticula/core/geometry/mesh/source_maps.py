"""Source maps: where each element of a new topology came from, and how values pass along that. See :mod:`.carry`."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property
from typing import Protocol

import numpy as np

from reticula.core.arrays import AnyArray, Floats, Indices, as_readonly, edge_keys, flat_rows, starts_from_sizes
from reticula.core.geometry.mesh.attribute import Attribute
from reticula.core.geometry.mesh.topology import Topology
from reticula.core.jit import kernel, parallel_kernel, prange
from reticula.core.rows import rows_at

__all__ = ["Blend", "Later", "Patched", "SourceMap", "Weights", "edge_sources", "edges_along", "kept"]

UNIT_LENGTH = ("normal", "rotation")
"""Well-known attributes that are normalised again after they were blended."""


class Blend(Protocol):
    """Anything that makes values of new elements from values of old ones, linearly: a matrix, given or implied."""

    def apply(self, values: AnyArray) -> Floats:
        """Return blended values ``(N, ...)`` of ``values (M, ...)``."""
        ...


@dataclass(frozen=True, eq=False)
class Weights:
    """A sparse matrix in CSR form: row i of the result is the sum of ``value[k] * source[column[k]]``."""

    start: Indices
    column: Indices
    value: Floats

    @classmethod
    def pairs(cls, first: AnyArray, second: AnyArray, share: AnyArray) -> Weights:
        """Blend two sources each: ``(1 - share) * first + share * second``, all ``(N,)``. Equal ones are taken once."""
        one = (first == second) | (share == 0.0)
        start = starts_from_sizes(np.where(one, 1, 2))
        column, value = np.empty(start[-1], np.int32), np.empty(start[-1])
        column[start[:-1]], value[start[:-1]] = first, np.where(one, 1.0, 1.0 - share)
        later = start[:-1][~one] + 1
        column[later], value[later] = second[~one], np.asarray(share)[~one]
        return cls(as_readonly(start), as_readonly(column), as_readonly(value))

    @classmethod
    def means(cls, start: AnyArray, item: AnyArray) -> Weights:
        """The mean of the ``item`` of each row ``start (N+1,)``."""
        sizes = np.diff(start)
        return cls(
            as_readonly(start.astype(np.int32)),
            as_readonly(item.astype(np.int32)),
            np.repeat(1.0 / np.maximum(sizes, 1), sizes),
        )

    @classmethod
    def rows(cls, column: AnyArray, value: AnyArray) -> Weights:
        """As many sources for each row: ``column (N, k)`` and ``value (N, k)``."""
        start = np.arange(len(column) + 1, dtype=np.int32) * column.shape[1]
        return cls(start, as_readonly(column.reshape(-1).astype(np.int32)), as_readonly(value.reshape(-1)))

    def apply(self, values: AnyArray) -> Floats:
        """Return the weighted sums of ``values (M, ...)``, ``(N, ...)``."""
        flat = flat_rows(values)
        return _apply(self.start, self.column, self.value, flat).reshape(len(self.start) - 1, *values.shape[1:])


@dataclass(frozen=True, eq=False)
class Patched:
    """Copies of ``index (N,)``, but for some rows ``at (K,)`` that lie between two sources each:
    ``(1 - share) * first + share * second``.
    """

    index: Indices
    at: AnyArray
    first: AnyArray
    second: AnyArray
    share: Floats

    def apply(self, values: AnyArray) -> Floats:
        """Return the values ``(N, ...)`` of ``values (M, ...)``."""
        flat = flat_rows(values)
        out = rows_at(flat, self.index)
        out += 0.0  # no zeros below zero, as in sums
        share = self.share[:, None]
        out[self.at] = 0.0 + (1.0 - share) * rows_at(flat, self.first) + share * rows_at(flat, self.second)
        return out.reshape(len(out), *values.shape[1:])


class Later:
    """A blend that is made when there is something to blend: positions are often all there is, and worked out
    otherwise.
    """

    def __init__(self, make: Callable[[], Blend]) -> None:
        self._make = make

    def apply(self, values: AnyArray) -> Floats:
        """Return blended values ``(N, ...)`` of ``values (M, ...)``."""
        return self._make().apply(values)


@parallel_kernel
def _apply(start: Indices, column: Indices, value: Floats, source: Floats) -> Floats:
    rows, width = len(start) - 1, source.shape[1]
    out = np.empty((rows, width))
    if width == 3:
        for i in prange(rows):
            x = y = z = 0.0
            for k in range(start[i], start[i + 1]):
                c, v = column[k], value[k]
                x += v * source[c, 0]
                y += v * source[c, 1]
                z += v * source[c, 2]
            out[i, 0], out[i, 1], out[i, 2] = x, y, z
        return out
    for i in prange(rows):
        for w in range(width):
            total = 0.0
            for k in range(start[i], start[i + 1]):
                total += value[k] * source[column[k], w]
            out[i, w] = total
    return out


@dataclass(frozen=True, eq=False)
class SourceMap:
    """Where each new element of a kind came from.

    ``index (N,)`` names its one main source, or -1 for none: identity, groups, text and other values that cannot be
    blended come from it. ``weights``, if given, blends numbers, vectors and matrices from several sources.
    """

    index: Indices
    weights: Blend | None = None

    @cached_property
    def largest(self) -> int:
        """The largest number of a source, -1 if there is none."""
        return int(self.index.max(initial=-1))

    def attribute(self, name: str, source: Attribute) -> Attribute:
        """Return the attribute carried to the new elements."""
        if self.weights is None or not source.info.blends:
            return source.take(self.index)
        blended = self.weights.apply(source.values)
        if name in UNIT_LENGTH and source.info.is_vector and source.info.size > 2:
            length = np.linalg.norm(blended, axis=1, keepdims=True)
            blended /= np.where(length > 0, length, 1.0)
        return Attribute(source.type, as_readonly(blended), None, source.default)


def kept(index: AnyArray) -> SourceMap:
    """Return a map of plain copies: new element i is a copy of ``index[i]`` (or has no source, if -1)."""
    return SourceMap(as_readonly(np.asarray(index).astype(np.int32)))


def edge_sources(source: Topology, topology: Topology, point_source: Indices) -> Callable[[], SourceMap]:
    """Return a map for edges, made on demand: an edge comes from the old edge between the sources of its ends."""

    def make() -> SourceMap:
        if not source.edge_count:
            return SourceMap(np.full(topology.edge_count, -1, np.int32))
        old = edge_keys(source.edges, source.point_count)
        order = np.argsort(old)
        ends = point_source[topology.edges]
        wanted = edge_keys(ends, source.point_count)
        at = np.minimum(np.searchsorted(old[order], wanted), len(old) - 1)
        index = order[at]
        index[(old[index] != wanted) | (ends < 0).any(axis=1)] = -1
        return SourceMap(index.astype(np.int32))

    return make


def edges_along(topology: Topology, corner_edge: AnyArray | Callable[[], AnyArray]) -> Callable[[], SourceMap]:
    """Return a map for edges, made on demand, from the old edge that the edge of each new corner lies on, or -1; those
    may be given by a function, so that nobody counts edges without need.
    """

    def make() -> SourceMap:
        old = corner_edge() if callable(corner_edge) else corner_edge
        return SourceMap(_last_along(topology.corner_edge, np.asarray(old, np.int32), topology.edge_count))

    return make


@kernel
def _last_along(corner_edge: Indices, old: Indices, count: int) -> Indices:
    """Return for each of ``count`` edges the highest of ``old (C,)`` at its corners."""
    out = np.full(count, -1, np.int32)
    for c in range(len(corner_edge)):
        out[corner_edge[c]] = max(out[corner_edge[c]], old[c])
    return out
