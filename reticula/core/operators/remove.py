"""Remove elements."""

from __future__ import annotations

from typing import cast

import numpy as np

from reticula.core.arrays import AnyArray, Flags, frozen, ragged_index
from reticula.core.geometry import Geo, Kind, SourceMap, Topology, carry, edge_sources
from reticula.core.geometry.kinds import PLURAL
from reticula.core.notes import note, warn
from reticula.core.operators.declare import operator
from reticula.core.operators.parameters import Choice, KindChoice, Where

__all__ = ["remove"]


@operator(
    "remove",
    family="topology",
    keywords=("delete", "erase", "drop", "cull", "cut away"),
    carries="Carries all; the elements that stay keep their values, order and identity.",
    parameters=(
        KindChoice.of(("face", "point", "edge", "curve"), "face", "what to remove"),
        Where("where", "index % 2 == 0", "which elements to remove: a formula or a group; empty removes none", on="kind"),
        Choice("leftovers", "remove", "points that no face or curve uses any more", options={
            "remove": "go too", "keep": "stay as loose points",
        }),
    ),
)  # fmt: skip
def remove(geo: Geo, *, kind: str, where: Flags, leftovers: str) -> Geo:
    """Remove elements, and what cannot exist without them.

    Removing points or edges removes the faces that use them, and removing points the curves through them. Points that
    were loose before stay, unless they are what is removed.
    """
    shape = geo.topology
    if kind == "point":
        lost_points = where
        lost_faces = _any_of(shape.face_start, where[shape.corner_point])
        lost_curves = _any_of(shape.curve_start, where[shape.curve_point])
    else:
        lost_points = np.zeros(shape.point_count, bool)
        lost_curves = where if kind == "curve" else np.zeros(shape.curve_count, bool)
        lost_faces = where if kind == "face" else np.zeros(shape.face_count, bool)
        if kind == "edge":
            lost_faces = _any_of(shape.face_start, where[shape.corner_edge])
    if not where.any():
        warn(f"None of {len(where):,} {PLURAL[kind]} is marked, so nothing was removed.")
        return geo
    if where.all():
        warn(f"All {len(where):,} {PLURAL[kind]} are marked, so none is left.")
    faces, curves = np.flatnonzero(~lost_faces), np.flatnonzero(~lost_curves)
    corners, face_start = ragged_index(shape.face_start, faces)
    used, curve_start = ragged_index(shape.curve_start, curves)
    stays = ~lost_points
    if leftovers == "remove":
        needed = np.zeros(shape.point_count, bool)
        needed[shape.corner_point[corners]] = True
        needed[shape.curve_point[used]] = True
        stays &= needed | ~shape.used_points
    points = np.flatnonzero(stays)
    number = np.full(shape.point_count, -1, np.int32)
    number[points] = np.arange(len(points))
    topology = Topology(
        len(points), face_start, number[shape.corner_point[corners]],
        curve_start, number[shape.curve_point[used]], shape.curve_closed[curves],
    )  # fmt: skip
    note(
        f"Removed {shape.point_count - len(points):,} points, {shape.face_count - len(faces):,} faces "
        f"and {shape.curve_count - len(curves):,} curves."
    )
    point_map = _kept(points)
    maps: dict[Kind, object] = {
        "point": point_map, "face": _kept(faces), "corner": _kept(corners), "curve": _kept(curves),
        "edge": edge_sources(shape, topology, point_map.index),
    }  # fmt: skip
    return carry(geo, topology, cast("dict[Kind, SourceMap]", maps))


def _any_of(start: AnyArray, flags: Flags) -> Flags:
    if len(start) < 2:
        return np.zeros(0, bool)
    return np.logical_or.reduceat(flags, start[:-1])


def _kept(index: AnyArray) -> SourceMap:
    return SourceMap(frozen(index.astype(np.int32)))
