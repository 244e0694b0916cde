"""Values of inner points that vary as evenly as possible between those of the points around them."""

from __future__ import annotations

from functools import cached_property
from typing import Any

import numpy as np
import scipy

from reticula.core.arrays import AnyArray, Floats, flat_rows
from reticula.core.geometry.mesh.topology import Topology

__all__ = ["Harmonic"]


class Harmonic:
    """Blends old points' values into points added after them: each added one is the mean of its neighbours.

    The neighbours are those along the edges of the faces from ``first_face`` on. Solves Laplace's equation on the graph
    (Tutte, "How to draw a graph", 1963, uses the same system).
    """

    def __init__(self, old: int, topology: Topology, first_face: int) -> None:
        self.old, self.count, self._topology, self._first_face = old, topology.point_count, topology, first_face

    @cached_property
    def _system(self) -> tuple[Any, Any]:
        """The factorised equations of the added points, and how the old ones enter; made when first asked for."""
        old, topology, first_face = self.old, self._topology, self._first_face
        begin = topology.face_start[first_face]
        a = topology.corner_point[begin:].astype(np.int64)
        b = topology.corner_point[topology.corner_next[begin:]].astype(np.int64)
        tail, head = np.concatenate([a, b]), np.concatenate([b, a])
        pairs = np.unique(tail * self.count + head)
        tail, head = pairs // self.count, pairs % self.count
        rows = tail >= old
        tail, head = tail[rows] - old, head[rows]
        inner = head >= old
        size = self.count - old
        degree = np.bincount(tail, minlength=size).astype(np.float64)
        diagonal = np.arange(size)
        solver = scipy.sparse.linalg.splu(
            scipy.sparse.csr_matrix(
                (
                    np.concatenate([np.maximum(degree, 1.0), -np.ones(int(inner.sum()))]),
                    (np.concatenate([diagonal, tail[inner]]), np.concatenate([diagonal, head[inner] - old])),
                ),
                shape=(size, size),
            ).tocsc()
        )
        known = scipy.sparse.csr_matrix((np.ones(int((~inner).sum())), (tail[~inner], head[~inner])), shape=(size, old))
        return solver, known

    def apply(self, values: AnyArray) -> Floats:
        """Return values of all points ``(P + M, ...)`` from those of the old ones ``(P, ...)``."""
        flat = flat_rows(values)
        solver, known = self._system
        inside = solver.solve(np.asarray(known @ flat))
        return np.concatenate([flat, inside]).reshape(self.count, *values.shape[1:])
