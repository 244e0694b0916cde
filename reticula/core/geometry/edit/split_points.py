"""Points parted: where faces stop sharing a point because the edges between them are cut."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Flags, Indices
from reticula.core.geometry.mesh.adjacency import find_root, join_roots
from reticula.core.geometry.mesh.carry import carry
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.mesh.source_maps import edges_along, kept
from reticula.core.jit import kernel

__all__ = ["split_along_edges"]


@kernel
def _split_points(
    cut: Flags, corner_point: Indices, following: Indices, edge_start: Indices, edge_corner: Indices, held: Flags
) -> tuple[Indices, Indices]:
    """New point of each corner, and the source point of each point that is added."""
    count = len(corner_point)
    parent = np.arange(count).astype(np.int32)
    for e in range(len(edge_start) - 1):
        if cut[e]:
            continue
        leader = edge_corner[edge_start[e]]
        for k in range(edge_start[e] + 1, edge_start[e + 1]):
            c = edge_corner[k]
            if corner_point[c] == corner_point[leader]:
                join_roots(parent, leader, c)
                join_roots(parent, following[leader], following[c])
            else:
                join_roots(parent, leader, following[c])
                join_roots(parent, following[leader], c)
    touched = np.zeros(len(held), np.bool_)
    for e in range(len(edge_start) - 1):
        if cut[e]:
            c = edge_corner[edge_start[e]]
            touched[corner_point[c]] = True
            touched[corner_point[following[c]]] = True
    point = np.full(count, -1, np.int32)
    taken = held.copy()
    added = np.empty(count, np.int32)
    number = 0
    for c in range(count):
        p = corner_point[c]
        if not touched[p]:
            point[c] = p
            continue
        root = find_root(parent, c)
        if point[root] < 0:
            if not taken[p]:
                taken[p] = True
                point[root] = p
            else:
                added[number] = p
                point[root] = len(held) + number
                number += 1
        point[c] = point[root]
    return point, added[:number].copy()


def split_along_edges(geo: Geo, cut: Flags) -> Geo:
    """Return the geometry with its faces parted along the ``cut (E,)`` edges.

    The first fan of faces around a point keeps it, each other fan gets a copy at the end; a point that a curve runs
    through stays with the curve.
    """
    shape = geo.topology
    if not cut.any():
        return geo
    held = np.zeros(shape.point_count, bool)
    held[shape.curve_point] = True
    point, added = _split_points(cut, shape.corner_point, shape.corner_next, *shape.edge_corners, held)
    topology = shape.with_faces(shape.point_count + len(added), shape.face_start, point)
    source = np.concatenate([np.arange(shape.point_count), added])
    return carry(geo, topology, {"point": kept(source), "edge": edges_along(topology, shape.corner_edge)})
