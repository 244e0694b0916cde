"""Points that lie on an edge without being an end of it made corners of the faces there, so that nothing gapes."""

from __future__ import annotations

import numpy as np
import scipy

from reticula.core.arrays import AnyArray, Flags, as_readonly, starts_from_sizes
from reticula.core.geometry.mesh.carry import carry
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.mesh.source_maps import SourceMap, Weights, edges_along, kept

__all__ = ["with_hanging_points"]


def with_hanging_points(geo: Geo, points: Flags, tolerance: float) -> tuple[Geo, int]:
    """Return the mesh with those of the ``points (P,)`` that lie within ``tolerance`` in m of an edge between two of
    them made corners of all faces at that edge, and how many corners were added.

    A point that is a corner of some face at the edge already is left out there for all of them. Faces stay as they are
    otherwise; their new corners blend the values of the edge's ends.
    """
    shape = geo.topology
    edges = np.flatnonzero(points[shape.edges].all(axis=1) & (shape.edge_face_count > 0))
    edge, point, share = _on_edges(geo, edges, np.flatnonzero(points), tolerance)
    if not len(edge):
        return geo, 0
    start, corners = shape.edge_corners
    sizes = np.diff(start)[edge]
    row = np.repeat(np.arange(len(edge)), sizes)
    step = np.arange(len(row)) - np.repeat(np.cumsum(sizes) - sizes, sizes)
    at = corners[start[edge[row]] + step]
    from_first = shape.corner_point[at] == shape.edges[edge[row], 0]
    along = np.where(from_first, share[row], 1.0 - share[row])
    repeats = _repeats_a_corner(shape.corner_face[at], point[row], shape.corner_face, shape.corner_point)
    free = (np.bincount(row, repeats, minlength=len(edge)) == 0)[row]
    at, along, added = at[free], along[free], point[row][free]
    source = np.concatenate([np.arange(shape.corner_count), at])
    place = np.concatenate([np.zeros(shape.corner_count), along])
    order = np.lexsort([place, source])
    source, place = source[order], place[order]
    point_of = np.concatenate([shape.corner_point, added])[order]
    topology = shape.with_faces(
        shape.point_count,
        starts_from_sizes(np.bincount(shape.corner_face[source], minlength=shape.face_count)),
        point_of,
    )
    blend = Weights.rows(np.stack([source, shape.corner_next[source]], axis=1), np.stack([1.0 - place, place], axis=1))
    made = carry(
        geo,
        topology,
        {
            "face": kept(np.arange(shape.face_count)),
            "corner": SourceMap(as_readonly(source.astype(np.int32)), blend),
            "edge": edges_along(topology, lambda: shape.corner_edge[source]),
        },
    )
    return made, len(at)


def _on_edges(geo: Geo, edges: AnyArray, points: AnyArray, tolerance: float) -> tuple[AnyArray, AnyArray, AnyArray]:
    """Pairs of an edge and a point inside of it, and how far along it the point lies, from 0 to 1: ``(N,)`` each."""
    a, b = np.moveaxis(geo.positions[geo.topology.edges[edges]], 1, 0)
    way = b - a
    length = np.linalg.norm(way, axis=1)
    near = scipy.spatial.cKDTree(geo.positions[points]).query_ball_point(0.5 * (a + b), 0.5 * length)
    row = np.repeat(np.arange(len(edges)), [len(found) for found in near])
    found = np.concatenate([*near, np.zeros(0)]).astype(np.int64)
    from_a = geo.positions[points[found]] - a[row]
    share = np.einsum("ij,ij->i", from_a, way[row]) / np.maximum(length[row] ** 2, 1e-300)
    off = np.linalg.norm(from_a - share[:, None] * way[row], axis=1)
    inside = (share * length[row] > tolerance) & ((1.0 - share) * length[row] > tolerance) & (off <= tolerance)
    return edges[row[inside]], points[found[inside]], share[inside]


def _repeats_a_corner(face: AnyArray, point: AnyArray, corner_face: AnyArray, corner_point: AnyArray) -> Flags:
    """Whether a face has the point as a corner already ``(N,)``."""
    count = int(max(corner_point.max(initial=0), point.max(initial=0))) + 1
    known = np.isin(corner_face, face)
    has = corner_face[known].astype(np.int64) * count + corner_point[known]
    return np.isin(face.astype(np.int64) * count + point, has)
