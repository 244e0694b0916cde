"""Points parted: one for every fan of faces that hang together around it."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Flags, Indices
from reticula.core.geometry.mesh.adjacency import find_root, join_across
from reticula.core.geometry.mesh.carry import carry
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.mesh.source_maps import edges_along, kept
from reticula.core.jit import inline_making, kernel

__all__ = ["split_all", "split_along_edges", "split_between_fans"]


@inline_making
def _points_of_fans(parent: Indices, corner_point: Indices, touched: Flags, held: Flags) -> tuple[Indices, Indices]:
    """New point of each corner, and the source point of each point that is added: one for each tree of corners.

    Only points that are ``touched (P,)`` are parted; of those, the first tree keeps a point that is not ``held (P,)``.
    """
    count = len(corner_point)
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


@kernel
def _split_at_edges(
    cut: Flags, corner_point: Indices, following: Indices, edge_start: Indices, edge_corner: Indices, held: Flags
) -> tuple[Indices, Indices]:
    """Part the ends of ``cut (E,)`` edges: faces hang together across all others."""
    parent = np.arange(len(corner_point)).astype(np.int32)
    touched = np.zeros(len(held), np.bool_)
    for e in range(len(edge_start) - 1):
        leader = edge_corner[edge_start[e]]
        if cut[e]:
            touched[corner_point[leader]] = True
            touched[corner_point[following[leader]]] = True
            continue
        for k in range(edge_start[e] + 1, edge_start[e + 1]):
            join_across(parent, corner_point, following, leader, edge_corner[k])
    return _points_of_fans(parent, corner_point, touched, held)


@kernel
def _split_at_partners(
    partner: Indices, corner_point: Indices, following: Indices, held: Flags
) -> tuple[Indices, Indices]:
    """Part all points: faces hang together from each corner to its ``partner (C,)``, if it has one."""
    parent = np.arange(len(corner_point)).astype(np.int32)
    for c in range(len(corner_point)):
        if partner[c] >= 0:
            join_across(parent, corner_point, following, c, partner[c])
    return _points_of_fans(parent, corner_point, np.ones(len(held), np.bool_), held)


def split_along_edges(geo: Geo, cut: Flags) -> Geo:
    """Return the geometry with its faces parted along the ``cut (E,)`` edges.

    The first fan of faces around a point keeps it, each other fan gets a copy at the end; a point that a curve runs
    through stays with the curve.
    """
    shape = geo.topology
    if not cut.any():
        return geo
    made = _split_at_edges(cut, shape.corner_point, shape.corner_next, *shape.edge_corners, _on_curves(geo))
    return _with_points(geo, *made)


def split_all(geo: Geo) -> Geo:
    """Return the geometry with a point of its own for every corner: what :func:`split_along_edges` gives if all edges
    are cut and all points lie on one.
    """
    shape = geo.topology
    return _with_points(geo, *_a_point_each(shape.corner_point, _on_curves(geo)))


@kernel
def _a_point_each(corner_point: Indices, held: Flags) -> tuple[Indices, Indices]:
    """New point of each corner, and the source point of each that is added; the first one keeps what is not held."""
    taken = held.copy()
    point, added = np.empty(len(corner_point), np.int32), np.empty(len(corner_point), np.int32)
    number = 0
    for c in range(len(corner_point)):
        p = corner_point[c]
        if taken[p]:
            added[number] = p
            p = len(held) + number
            number += 1
        else:
            taken[p] = True
        point[c] = p
    return point, added[:number]


def split_between_fans(geo: Geo, partner: Indices) -> tuple[Geo, int]:
    """Return the geometry with a point of its own for every fan of faces joined by ``partner (C,)``, the corner across
    the edge from each on, or -1; and how many points were added. Points stay with fans and curves as in
    :func:`split_along_edges`.
    """
    shape = geo.topology
    point, added = _split_at_partners(partner, shape.corner_point, shape.corner_next, _on_curves(geo))
    return (_with_points(geo, point, added) if len(added) else geo), len(added)


def _on_curves(geo: Geo) -> Flags:
    held = np.zeros(geo.topology.point_count, bool)
    held[geo.topology.curve_point] = True
    return held


def _with_points(geo: Geo, point: Indices, added: Indices) -> Geo:
    """The same faces with other points ``(C,)``, copies of the ``added`` ones at the end."""
    shape = geo.topology
    topology = shape.with_faces(shape.point_count + len(added), shape.face_start, point)
    source = np.concatenate([np.arange(shape.point_count, dtype=np.int32), added])
    return carry(geo, topology, {"point": kept(source), "edge": edges_along(topology, lambda: shape.corner_edge)})
