"""Edges of more than two faces whose ends cannot be parted: all pairs of faces but one get a point of their own."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Indices, as_readonly, starts_from_sizes
from reticula.core.geometry.mesh.carry import carry
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.mesh.source_maps import SourceMap, Weights, edges_along, kept

__all__ = ["with_middles"]


def with_middles(geo: Geo, partner: Indices) -> tuple[Geo, int]:
    """Return the mesh with a new point in the middle of each crowded edge for every pair of faces there but the first,
    and how many points were added.

    ``partner (C,)`` is the corner on the other side that the face of each corner stays joined with, -1 for none. Two
    solids that touch along an edge, and hang together at both of its ends, then share the ends alone.
    """
    shape = geo.topology
    start, corners = shape.edge_corners
    crowded = np.diff(start) > 2
    at = corners[np.repeat(crowded, np.diff(start))]
    leader = np.where(partner[at] >= 0, np.minimum(at, partner[at]), at)
    edge = shape.corner_edge[at]
    first = np.full(shape.edge_count, shape.corner_count)
    np.minimum.at(first, edge, leader)
    other = leader != first[edge]
    at, leader = at[other], leader[other]
    if not len(at):
        return geo, 0
    pairs, which = np.unique(leader, return_inverse=True)
    ends = np.stack([shape.corner_point[pairs], shape.corner_point[shape.corner_next[pairs]]], axis=1)
    source = np.concatenate([np.arange(shape.corner_count), at])
    order = np.argsort(source, kind="stable")
    source = source[order]
    middle = np.repeat([0.0, 0.5], [shape.corner_count, len(at)])[order]
    point_of = np.concatenate([shape.corner_point, shape.point_count + which.reshape(-1)])[order]
    topology = shape.with_faces(
        shape.point_count + len(pairs),
        starts_from_sizes(np.bincount(shape.corner_face[source], minlength=shape.face_count)),
        point_of,
    )
    old = np.arange(shape.point_count)
    columns = np.concatenate([np.stack([old, old], axis=1), ends])
    shares = np.repeat([[1.0, 0.0], [0.5, 0.5]], [shape.point_count, len(pairs)], axis=0)
    blend = Weights.rows(
        np.stack([source, shape.corner_next[source]], axis=1), np.stack([1.0 - middle, middle], axis=1)
    )
    made = carry(
        geo,
        topology,
        {
            "point": SourceMap(as_readonly(columns[:, 0].astype(np.int32)), Weights.rows(columns, shares)),
            "face": kept(np.arange(shape.face_count)),
            "corner": SourceMap(as_readonly(source.astype(np.int32)), blend),
            "edge": edges_along(topology, lambda: shape.corner_edge[source]),
        },
    )
    return made, len(pairs)
