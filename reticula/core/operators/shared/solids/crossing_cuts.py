"""Faces cut where others cross them."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from reticula.core.arrays import AnyArray, Floats, as_readonly, following_in_rows, ragged_index, starts_from_sizes
from reticula.core.geometry import Geo, SourceMap, Topology, Weights, carry, edges_along, kept, triangles
from reticula.core.geometry.edit.face_triangles import triangulate_faces
from reticula.core.geometry.edit.subset import subset
from reticula.core.geometry.edit.weld import cluster_by_distance, weld_points
from reticula.core.geometry.planar.arrangement import arrange_segments
from reticula.core.geometry.planar.barycentric import barycentric

__all__ = ["cut_at_crossings"]

WELD = 1e-9
"""Distance, as a share of the size, at which the ends of cuts in neighbouring faces are one point."""
ON = 1e-9
"""A weight below this lies on the side of the triangle across from that corner."""

Find = Callable[[Floats, AnyArray], tuple[AnyArray, Floats]]
"""From triangles, their places ``(N, 3, 3)`` and points ``(N, 3)``, to the segments that cross them: the triangle
``(M,)`` and the ends ``(M, 2, 3)``.
"""


def cut_at_crossings(geo: Geo, find: Find, size: float) -> Geo:
    """Cut faces along the segments that ``find`` gives for their triangles; others stay as they are.

    Faces that are crossed are cut into triangles, then along the crossings. Ends nearer than 1e-9 of ``size`` are one
    point; old points stay to the bit. All values are interpolated; what is left of old edges keeps theirs.
    """
    cut = triangles(geo)
    point = geo.topology.corner_point[cut.corner]
    owner, _ = find(geo.positions[point], point)
    if not len(owner):
        return geo
    crossed = np.zeros(geo.topology.face_count, bool)
    crossed[cut.face[owner]] = True
    parts_of = np.where(crossed, geo.topology.face_size - 2, 1)
    geo = triangulate_faces(geo, crossed)
    shape = geo.topology
    faces = np.flatnonzero(np.repeat(crossed, parts_of))
    corner = shape.face_start[faces][:, None] + np.arange(3)
    place = geo.positions[shape.corner_point[corner]]
    owner, segments = find(place, shape.corner_point[corner])
    hit = np.unique(owner)
    number = np.full(len(faces), -1)
    number[hit] = np.arange(len(hit))
    parts = arrange_segments(place[hit], number[owner], segments, size)
    weight = barycentric(place[hit][np.repeat(parts.owner, np.diff(parts.start))], parts.place)
    cut_edge = _old_edges(shape, corner[hit][np.repeat(parts.owner, np.diff(parts.start))], weight, parts.start)
    stays = np.ones(shape.face_count, bool)
    stays[faces[hit]] = False
    flat, _ = ragged_index(shape.face_start, np.flatnonzero(stays))
    order = np.argsort(np.concatenate([np.flatnonzero(stays), faces[hit][parts.owner]]), kind="stable")
    sizes = np.concatenate([shape.face_size[stays], np.diff(parts.start)])
    columns = np.concatenate(
        [np.repeat(flat[:, None], 3, 1), corner[hit][np.repeat(parts.owner, np.diff(parts.start))]]
    )
    shares = np.concatenate([np.tile([1.0, 0, 0], (len(flat), 1)), weight])
    point = np.concatenate([shape.corner_point[flat], shape.point_count + np.arange(len(parts.place))])
    pick, start = ragged_index(starts_from_sizes(sizes), order)
    points = shape.point_count + len(parts.place)
    topology = Topology(
        points, start, point[pick], shape.curve_start, shape.curve_point, shape.curve_closed, shape.instance_count
    )
    main = columns[np.arange(len(columns)), shares.argmax(axis=1)]
    old = np.arange(shape.point_count)
    point_columns = np.concatenate([np.repeat(old[:, None], 3, 1), shape.corner_point[columns[len(flat) :]]])
    point_shares = np.concatenate([np.tile([1.0, 0, 0], (len(old), 1)), weight])
    point_main = np.concatenate([old, shape.corner_point[main[len(flat) :]]])
    made = carry(
        geo,
        topology,
        {
            "point": SourceMap(as_readonly(point_main.astype(np.int32)), Weights.rows(point_columns, point_shares)),
            "face": kept(np.concatenate([np.flatnonzero(stays), faces[hit][parts.owner]])[order]),
            "corner": SourceMap(as_readonly(main[pick].astype(np.int32)), Weights.rows(columns[pick], shares[pick])),
            "edge": edges_along(topology, np.concatenate([shape.corner_edge[flat], cut_edge])[pick]),
        },
        positions=np.concatenate([geo.positions, parts.place]),
    )
    return _welded(made, shape.point_count, size)


def _old_edges(shape: Topology, corner: AnyArray, weight: Floats, start: AnyArray) -> AnyArray:
    """The old edge that the one from each new corner lies on ``(N,)``, -1 for cuts through the triangle.

    ``corner (N, 3)`` are those of the triangle each new corner lies in, ``weight (N, 3)`` its place between them.
    """
    off = np.maximum(weight, weight[following_in_rows(start)])
    across = off.argmin(axis=1)
    rows = np.arange(len(corner))
    return np.where(off[rows, across] < ON, shape.corner_edge[corner[rows, (across + 1) % 3]], -1)


def _welded(made: Geo, old: int, size: float) -> Geo:
    """Put the ends of cuts together, and onto the old points, which stay to the bit."""
    shape = made.topology
    used = np.zeros(shape.point_count, bool)
    used[shape.corner_point] = True
    rows = np.flatnonzero(used | (np.arange(shape.point_count) < old))
    leader = cluster_by_distance(made.positions, rows, WELD * size)
    return subset(weld_points(made, leader, average=False), loose=True)
