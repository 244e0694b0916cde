"""Edges raised to strips of faces, and points raised to curves: the other two kinds of extrusion."""

from __future__ import annotations

from typing import Any

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats
from reticula.core.diagnostics import note, warn
from reticula.core.geometry import Geo, carry, edges_along, kept
from reticula.core.geometry.edit.flip import flipped
from reticula.core.geometry.edit.orientation import consistent_orientation
from reticula.core.geometry.measure.areas import point_normals
from reticula.core.rows import unit

__all__ = ["raised_lines"]


def raised_lines(geo: Geo, what: str, where: Flags, options: Any, top_group: str, side_group: str) -> Geo:
    """Return the geometry with its marked edges raised to strips, or its marked points to curves.

    Strips continue the winding of the faces they hang on. Values that are given per face or corner are averaged onto
    the points. The new ends are a group, and so are the new faces of strips.
    """
    shape = geo.topology
    lines = shape.edges[where] if what == "edge" else np.flatnonzero(where)[:, None]
    points = np.unique(lines)
    place = np.full(shape.point_count, -1)
    place[points] = np.arange(len(points))
    far = _on_points(geo, options.distance[:, None], options.per)[points]
    if options.along == "direction":
        way = unit(_on_points(geo, options.direction, options.per)[points])
    else:
        way = point_normals(geo)[points]
        without = int((~way.any(axis=1)).sum())
        if without:
            warn(f"{without:,} points belong to no face, so they have no normal and stay; choose along 'direction'.")
    divisions = options.divisions
    rows = [points]
    moved = []
    for k in range(1, divisions + 1):
        moved.append(geo.positions[points] + (k / divisions) * far * way)
        rows.append(shape.point_count + (k - 1) * len(points) + np.arange(len(points)))
    positions = np.concatenate([geo.positions, *moved])
    source = np.concatenate([np.arange(shape.point_count), np.tile(points, divisions)])
    count = len(positions)
    if what == "point":
        return _as_curves(geo, rows, source, positions, top_group)
    first = shape.edge_corners[1][shape.edge_corners[0][:-1]][where]
    with_face = shape.corner_point[first] == lines[:, 0]
    low, high = np.where(with_face, lines[:, 1], lines[:, 0]), np.where(with_face, lines[:, 0], lines[:, 1])
    quads = [
        np.stack([a[place[low]], a[place[high]], b[place[high]], b[place[low]]], axis=1)
        for a, b in zip(rows, rows[1:], strict=False)
    ]
    near, away = (
        np.where(with_face, shape.corner_next[first], first),
        np.where(with_face, first, shape.corner_next[first]),
    )
    corner = np.tile(np.stack([near, away, away, near], axis=1).reshape(-1), divisions)
    made = len(lines) * divisions
    topology = shape.with_faces(
        count,
        np.concatenate([shape.face_start, shape.face_start[-1] + 4 * np.arange(1, made + 1)]),
        np.concatenate([shape.corner_point, *(quad.reshape(-1) for quad in quads)]),
    )
    edges, none = np.flatnonzero(where), np.full(len(lines), -1)
    own = [
        np.stack([edges if k == 0 else none, none, edges if k == divisions - 1 else none, none], axis=1).reshape(-1)
        for k in range(divisions)
    ]
    faces = np.concatenate([np.arange(shape.face_count), np.tile(shape.corner_face[first], divisions)])
    result = carry(
        geo,
        topology,
        {
            "point": kept(source),
            "face": kept(faces),
            "corner": kept(np.concatenate([np.arange(shape.corner_count), corner])),
            "edge": edges_along(topology, lambda: np.concatenate([shape.corner_edge, *own])),
        },
        positions=positions,
    )
    top = np.zeros(topology.edge_count, bool)
    last = topology.face_start[shape.face_count + made - len(lines) : shape.face_count + made] + 2
    top[topology.corner_edge[last]] = True
    note(f"Raised {len(lines):,} edges to {made:,} faces.")
    sides = np.arange(topology.face_count) >= shape.face_count
    result = result.with_attribute("face", side_group, sides).with_attribute("edge", top_group, top)
    return _looking_one_way(result, sides, np.tile(shape.border_edges[where], divisions))


def _looking_one_way(geo: Geo, sides: Flags, hangs: Flags) -> Geo:
    """Turn strips so that all of a chain look one way: as those that hang on an open border, which ``hangs`` says per
    side face, else as most of them. Along an edge between two faces either way is as good.
    """
    found = consistent_orientation(geo.topology, sides)
    rows = np.flatnonzero(sides)
    if not found.turned.any():
        return geo
    vote = np.where(found.turned[rows], -1.0, 1.0) * np.where(hangs, 1e9, 1.0)
    against = np.bincount(found.region[rows], vote) < 0
    turned = np.zeros(len(sides), bool)
    turned[rows] = found.turned[rows] != against[found.region[rows]]
    return flipped(geo, turned, np.zeros(geo.topology.curve_count, bool))


def _as_curves(geo: Geo, rows: list[AnyArray], source: AnyArray, positions: Floats, top_group: str) -> Geo:
    shape = geo.topology
    along = np.stack(rows, axis=1)
    begin = len(shape.curve_point)
    topology = shape.with_curves(
        len(positions),
        np.concatenate([shape.curve_start, begin + len(rows) * np.arange(1, len(along) + 1)]),
        np.concatenate([shape.curve_point, along.reshape(-1)]),
        np.concatenate([shape.curve_closed, np.zeros(len(along), bool)]),
    )
    curves = np.concatenate([np.arange(shape.curve_count), np.full(len(along), -1)])
    made = carry(geo, topology, {"point": kept(source), "curve": kept(curves)}, positions=positions)
    note(f"Raised {len(along):,} points to curves.")
    top = np.zeros(topology.point_count, bool)
    top[rows[-1]] = True
    return made.with_attribute("point", top_group, top)


def _on_points(geo: Geo, values: Floats, per: str) -> Floats:
    """Values per face, point or corner as values per point ``(P, k)``; loose points get the mean of all."""
    if per == "point":
        return values
    shape = geo.topology
    owner = shape.corner_face if per == "face" else np.arange(shape.corner_count)
    total = np.zeros((shape.point_count, values.shape[1]))
    np.add.at(total, shape.corner_point, values[owner])
    count = np.bincount(shape.corner_point, minlength=shape.point_count)[:, None]
    middle = values.mean(axis=0) if len(values) else np.zeros(values.shape[1])
    return np.where(count > 0, total / np.maximum(count, 1), middle)
