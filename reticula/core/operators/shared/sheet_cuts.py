"""Sheets cut by solids and by sheets."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from reticula.core.arrays import Flags, Floats, as_readonly, ragged_index, starts_from_sizes
from reticula.core.diagnostics import warn
from reticula.core.geometry import Geo, SourceMap, Topology, Weights, carry, kept, triangles
from reticula.core.geometry.edit.level_cut import triangulate_faces
from reticula.core.geometry.edit.subset import subset
from reticula.core.geometry.edit.weld import cluster_by_distance, weld_points
from reticula.core.geometry.planar.arrangement import arrange_segments
from reticula.core.geometry.planar.barycentric import barycentric
from reticula.core.spatial.crossings import crossing_segments
from reticula.core.spatial.inside import behind, inside

__all__ = ["cut_sheet"]

WELD = 1e-9
"""Distance, as a share of the size, at which the ends of cuts in neighbouring faces are one point."""


def cut_sheet(geo: Geo, others: Sequence[Geo]) -> tuple[Geo, Flags, Flags]:
    """Cut the faces of an open mesh where others cross them.

    Returns the cut mesh, which of its faces lie inside a solid (or behind a sheet), and which of its edges are the
    seam. Only faces that are crossed are cut, into triangles and then along the crossings; worked out about the middle
    of the sheet, so that nothing hangs on where it lies.
    """
    given, center = geo.positions, geo.bounds.mean(axis=0)
    geo, others = _moved(geo, -center), [_moved(other, -center) for other in others]
    near, size = geo.positions, float(np.linalg.norm(geo.bounds[1] - geo.bounds[0]))
    for other in others:
        geo = _cut_by(geo, other, size)
    within = np.zeros(geo.topology.face_count, bool)
    places = _middles(geo)
    for other in others:
        within |= behind(other, places) if other.topology.border_edges.any() else inside(other, places)
    shape = geo.topology
    sides = within[shape.corner_face[shape.edge_corners[1]]]
    start = shape.edge_corners[0][:-1]
    seam = np.zeros(0, bool)
    if shape.edge_count:
        seam = np.logical_or.reduceat(sides, start) & ~np.logical_and.reduceat(sides, start)
    positions = geo.positions + center
    old = min(len(given), len(positions))
    same = np.flatnonzero((geo.positions[:old] == near[:old]).all(axis=1))
    positions[same] = given[same]
    return geo.with_positions(positions), within, seam


def _moved(geo: Geo, by: Floats) -> Geo:
    return geo.with_positions(geo.positions + by)


def _middles(geo: Geo) -> Floats:
    """A place inside each face ``(F, 3)``: the middle of its largest triangle."""
    cut = triangles(geo)
    corner = geo.positions[geo.topology.corner_point[cut.corner]]
    area = np.linalg.norm(np.cross(corner[:, 1] - corner[:, 0], corner[:, 2] - corner[:, 0]), axis=1)
    order = np.lexsort([area, cut.face])
    last = np.flatnonzero(np.append(cut.face[order][1:] != cut.face[order][:-1], True)) if len(order) else order
    return corner[order[last]].mean(axis=1)


def _cut_by(geo: Geo, other: Geo, size: float) -> Geo:
    cut = triangles(geo)
    owner, _ = crossing_segments(geo.positions[geo.topology.corner_point[cut.corner]], other)
    if not len(owner):
        return geo
    crossed = np.zeros(geo.topology.face_count, bool)
    crossed[cut.face[owner]] = True
    geo = triangulate_faces(geo, crossed)
    shape = geo.topology
    faces = np.flatnonzero(shape.face_size == 3)
    corner = shape.face_start[faces][:, None] + np.arange(3)
    place = geo.positions[shape.corner_point[corner]]
    owner, segments = crossing_segments(place, other)
    hit = np.unique(owner)
    number = np.full(len(faces), -1)
    number[hit] = np.arange(len(hit))
    parts = arrange_segments(place[hit], number[owner], segments, size)
    weight = barycentric(place[hit][np.repeat(parts.owner, np.diff(parts.start))], parts.place)
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
            "edge": kept(np.full(topology.edge_count, -1)),
        },
        positions=np.concatenate([geo.positions, parts.place]),
    )
    if geo.attributes["edge"]:
        warn(
            f"The edge attributes {', '.join(geo.attributes['edge'])} have their defaults on all "
            "edges of the cut sheet."
        )
    return _welded(made, shape.point_count, size)


def _welded(made: Geo, old: int, size: float) -> Geo:
    """Put the ends of cuts together, and onto the old points, which stay to the bit."""
    shape = made.topology
    used = np.zeros(shape.point_count, bool)
    used[shape.corner_point] = True
    rows = np.flatnonzero(used | (np.arange(shape.point_count) < old))
    leader = cluster_by_distance(made.positions, rows, WELD * size)
    return subset(weld_points(made, leader, average=False), loose=True)
