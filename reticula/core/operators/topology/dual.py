"""Dual: faces become points and points become faces."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from reticula.core.arrays import AnyArray, Floats, Indices, UInts, ragged_index, starts_from_sizes
from reticula.core.diagnostics import note, warn
from reticula.core.geometry import Attribute, Geo, Kind, SourceMap, Topology, Weights, carry, kept
from reticula.core.geometry.mesh.identity import distinct_names
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Choice

__all__ = ["dual"]


@operator(
    "dual",
    family="topology",
    keywords=("honeycomb", "swap", "hexagons", "cells", "invert"),
    brings={"open borders": None},
    carries=(
        "Face values become point values and point values become face values; corner values go along "
        "as means. Edge values "
        "are dropped, which is said. Curves and loose points stay."
    ),
    example="""
        ball = geodesic_sphere(frequency=5)
        cells = dual(ball)
        inset(cells, distance=0.02)
    """,
    related=("struts", "triangulate", "panels"),
    parameters=(
        Choice(
            "border",
            "close",
            "points on an open border",
            options={
                "close": "become faces too, closed along the border through its edges' middles",
                "leave": "become no face, so that the mesh shrinks by half a face",
            },
        ),
    ),
)
def dual(geo: Geo, *, border: str) -> Geo:
    """Put a point in the middle of every face and a face around every point.

    Faces wind as before. Points whose faces do not form a single fan (non-manifold ones) become no face.
    """
    shape = geo.topology
    if not shape.face_count:
        warn("There are no faces.")
        return geo
    start, fan, closed, open_ = shape.point_fans
    closed, open_ = closed & (np.diff(start) >= 3), open_ & (border == "close")
    made = np.flatnonzero(closed | open_)
    ring, begins = ragged_index(start, made)
    ring = fan[ring]
    lost = int((np.diff(shape.point_corners[0]) > 0).sum()) - len(made)
    loose = np.flatnonzero(~np.isin(np.arange(shape.point_count), shape.corner_point))
    middle = np.full(shape.edge_count, -1, np.int32)
    rims = np.flatnonzero(shape.border_edges) if border == "close" else np.zeros(0, np.int64)
    middle[rims] = shape.face_count + np.arange(len(rims))
    tips = np.flatnonzero(open_)
    tip = np.full(shape.point_count, -1, np.int32)
    tip[tips] = shape.face_count + len(rims) + np.arange(len(tips))
    sizes = np.diff(start)[made] + np.where(open_[made], 3, 0)
    face_start = starts_from_sizes(sizes)
    corner_point, corner_source = np.empty(face_start[-1], np.int32), np.empty(face_start[-1], np.int32)
    shift = np.repeat(face_start[:-1] - begins[:-1], np.diff(begins))
    place = np.arange(len(ring)) + shift
    corner_point[place], corner_source[place] = shape.corner_face[ring], ring
    at = np.flatnonzero(open_[made])
    if len(at):
        owner = made[at]
        begin, end = fan[start[owner]], fan[start[owner + 1] - 1]
        last = face_start[at + 1]
        corner_point[last - 3] = middle[shape.corner_edge[shape.corner_previous[end]]]
        corner_point[last - 2] = tip[owner]
        corner_point[last - 1] = middle[shape.corner_edge[begin]]
        corner_source[last - 3], corner_source[last - 2], corner_source[last - 1] = end, end, begin
    others = np.full(shape.point_count, -1, np.int32)
    first_loose = shape.face_count + len(rims) + len(tips)
    others[loose] = first_loose + np.arange(len(loose))
    on_curve = np.setdiff1d(shape.curve_point, loose)
    extra = first_loose + len(loose)
    others[on_curve] = extra + np.arange(len(on_curve))
    total = extra + len(on_curve)
    topology = Topology(
        total,
        face_start,
        corner_point,
        shape.curve_start,
        others[shape.curve_point],
        shape.curve_closed,
        shape.instance_count,
    )
    old = np.concatenate([shape.edges[rims].reshape(-1), tips, loose, on_curve])
    rows = np.concatenate(
        [shape.face_size, np.full(len(rims), 2), np.ones(len(tips) + len(loose) + len(on_curve), np.int64)]
    )
    weights = Weights.means(starts_from_sizes(rows), np.concatenate([shape.corner_point, old]))
    positions = weights.apply(geo.positions)
    if lost:
        warn(f"{lost:,} points became no face: they lie on a border that is left, or their faces form no single fan.")
    note(f"{topology.face_count:,} faces around {topology.point_count:,} points.")
    single = np.concatenate([shape.edges[rims, 0], tips, loose, on_curve]).astype(np.int64)
    return _with_values(geo, topology, made, corner_source, positions, single)


def _with_values(
    geo: Geo, topology: Topology, made: AnyArray, corner_source: Indices, positions: Floats, single: AnyArray
) -> Geo:
    """Hand the values of faces to points and those of points to faces; ``single`` are the points that stay points."""
    shape = geo.topology
    if geo.attributes["edge"]:
        warn(f"The edge attributes {', '.join(geo.attributes['edge'])} were dropped: a dual has other edges.")
    named = geo.attributes
    rest: dict[Kind, Mapping[str, Attribute]] = {
        kind: values for kind, values in named.items() if kind in ("corner", "curve", "instance", "whole")
    }
    rest["point"] = {"position": named["point"]["position"]}
    swapped = Geo(shape, rest, identity=geo.own_identity, prototypes=geo.prototypes)
    result = carry(
        swapped,
        topology,
        {
            "point": kept(np.full(topology.point_count, -1)),
            "face": kept(np.full(topology.face_count, -1)),
            "corner": kept(corner_source),
        },
        positions=positions,
    )
    beside = shape.corner_face[
        shape.point_corners[1][np.minimum(shape.point_corners[0][:-1], max(shape.corner_count - 1, 0))]
    ]
    beside = np.where(np.diff(shape.point_corners[0]) > 0, beside, -1)
    for name, found in named["face"].items():
        index = np.concatenate([np.arange(shape.face_count), beside[single]])
        result = result.with_attribute("point", name, SourceMap(index.astype(np.int32)).attribute(name, found))
    for name, found in named["point"].items():
        if name != "position":
            result = result.with_attribute("face", name, SourceMap(made.astype(np.int32)).attribute(name, found))
    faces, points = geo.identity("face"), geo.identity("point")
    names: dict[Kind, UInts] = {"point": np.concatenate([faces, points[single]]), "face": points[made]}
    identity = {**result.own_identity, **{kind: distinct_names(own) for kind, own in names.items()}}
    return Geo(topology, result.attributes, identity=identity, prototypes=geo.prototypes)
