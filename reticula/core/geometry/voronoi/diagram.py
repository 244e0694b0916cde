"""The neighbours, corners and edges of Voronoi cells in space."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
import scipy

from reticula.core.arrays import Floats, Indices
from reticula.core.geometry.mesh.adjacency import group_by

__all__ = ["Diagram", "diagram_of"]

FAR = 12.0
"""How far away, in sizes of the whole, the helpers stand that close the outer cells."""


@dataclass(frozen=True, eq=False)
class Diagram:
    """Voronoi cells of ``count`` centres; ``centers`` also holds the helpers after them.

    ``near_start (N+1,)``, ``near``: the neighbours of each cell. ``vertex (V, 3)``: where four cells meet, with
    ``helped (V,)`` true where one of them is a helper's. ``edge_cells (E, 3)``: the sorted cells around each edge,
    ``edge_ends (E, 2)`` its two vertices.
    """

    count: int
    centers: Floats
    near_start: Indices
    near: Indices
    vertex: Floats
    helped: Any
    edge_cells: Indices
    edge_ends: Indices


def diagram_of(centers: Floats, low: Floats, high: Floats) -> Diagram:
    """Return the Voronoi diagram of ``centers (N, 3)`` for use inside the box ``low`` to ``high``.

    From the Delaunay tetrahedra by Qhull (Barber, Dobkin & Huhdanpaa, ACM TOMS 22(4), 1996).
    """
    count = len(centers)
    middle, size = (low + high) / 2.0, max(float(np.linalg.norm(high - low)), 1e-9)
    signs = np.array([[x, y, z] for x in (-1, 1) for y in (-1, 1) for z in (-1, 1)], np.float64)
    turn = np.array([[0.936, -0.275, 0.218], [0.290, 0.956, -0.036], [-0.198, 0.097, 0.975]])
    points = np.concatenate([centers, middle + FAR * size * signs @ turn])
    tetra = scipy.spatial.Delaunay(points)
    simplex = np.sort(tetra.simplices, axis=1)
    a, b, c, d = (points[tetra.simplices[:, k]] for k in range(4))
    matrix = 2.0 * np.stack([b - a, c - a, d - a], axis=1)
    right = np.stack([np.einsum("ij,ij->i", q - a, q - a) for q in (b, c, d)], axis=1)
    safe = np.abs(np.linalg.det(matrix)) > 1e-300
    vertex = a.copy()
    vertex[safe] += np.linalg.solve(matrix[safe], right[safe][..., None])[..., 0]
    pairs = simplex[:, [[0, 1], [0, 2], [0, 3], [1, 2], [1, 3], [2, 3]]].reshape(-1, 2)
    own = pairs[pairs[:, 1] < count].astype(np.int64)
    pairs = np.stack(np.divmod(np.unique(own[:, 0] * count + own[:, 1]), count), axis=1)
    both = np.concatenate([pairs, pairs[:, ::-1]])
    far = np.linalg.norm(points[both[:, 0]] - points[both[:, 1]], axis=1)
    both = both[np.argsort(far, kind="stable")].astype(np.int32)
    start, order = group_by(np.ascontiguousarray(both[:, 0]), count)
    facets = np.sort(tetra.simplices[:, [[1, 2, 3], [0, 2, 3], [0, 1, 3], [0, 1, 2]]], axis=2)
    first = np.repeat(np.arange(len(simplex)), 4).reshape(-1, 4)
    once = (tetra.neighbors > first) & (facets[:, :, 2] < count)
    return Diagram(
        count,
        points,
        start,
        both[order, 1],
        vertex,
        (simplex >= count).any(axis=1),
        facets[once].astype(np.int32),
        np.stack([first[once], tetra.neighbors[once]], axis=1).astype(np.int32),
    )
