"""Which faces may reach into convex cells that are given by their centre and those of their neighbours."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Flags, Floats, Indices, Ints
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.voronoi.diagram import Diagram
from reticula.core.growing import with_room
from reticula.core.jit import inline, kernel
from reticula.core.spatial.surface import STACK, surface_of
from reticula.core.spatial.tree import Tree

__all__ = ["faces_reaching_cells"]


@inline
def _is_beyond(box: Floats, center: Floats, other: Floats, slack: float) -> bool:
    """Whether all of a box (low, high) lies nearer to another centre."""
    least = 0.0
    for w in range(3):
        way = other[w] - center[w]
        least += way * ((box[w] if way > 0.0 else box[w + 3]) - 0.5 * (center[w] + other[w]))
    return least > slack


@kernel
def _reached(tree: Tree, diagram: tuple[Floats, Indices, Indices], owners: Ints, slack: float) -> Indices:
    """Pairs (triangle, cell) of triangles whose boxes no bisector of the cell keeps out ``(N, 2)``."""
    box, first, size, corner, order = tree
    centers, near_start, near = diagram
    pairs, count = np.empty((1024, 2), np.int32), 0
    stack, own = np.empty(STACK, np.int32), np.empty(6)
    for c in owners:
        stack[0] = 0
        depth = 1
        while depth:
            depth -= 1
            node = stack[depth]
            out = False
            for q in range(near_start[c], near_start[c + 1]):
                out = out or _is_beyond(box[node], centers[c], centers[near[q]], slack)
            if out:
                continue
            if size[node] == 0:
                stack[depth], stack[depth + 1] = first[node], first[node] + 1
                depth += 2
                continue
            for i in range(first[node], first[node] + size[node]):
                t = corner[i]
                for w in range(3):
                    own[w], own[w + 3] = min(t[0, w], t[1, w], t[2, w]), max(t[0, w], t[1, w], t[2, w])
                out = False
                for q in range(near_start[c], near_start[c + 1]):
                    out = out or _is_beyond(own, centers[c], centers[near[q]], slack)
                if out:
                    continue
                pairs = with_room(pairs, count + 1)
                pairs[count, 0], pairs[count, 1] = order[i], c
                count += 1
    return pairs[:count].copy()


def faces_reaching_cells(geo: Geo, diagram: Diagram, owner: Flags) -> Ints:
    """Return pairs of a face and a cell it may reach into ``(M, 2)``, for the cells marked ``owner (N,)``, in order of
    the cells.
    """
    surface = surface_of(geo)
    slack = 1e-9 * float(np.linalg.norm(geo.bounds[1] - geo.bounds[0])) ** 2
    cells = diagram.centers, diagram.near_start, diagram.near
    found = _reached(surface.tree, cells, np.flatnonzero(owner), slack).astype(np.int64)
    found[:, 0] = surface.face[found[:, 0]]
    found = np.unique(found[:, ::-1], axis=0)
    return np.ascontiguousarray(found[:, ::-1])
