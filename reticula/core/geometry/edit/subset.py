"""Parts of a geometry: some faces, curves and points, in their old order with all their values."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray, Flags, ragged_index
from reticula.core.geometry.mesh.carry import Map, carry
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.mesh.kinds import Kind
from reticula.core.geometry.mesh.source_maps import edges_along, kept
from reticula.core.geometry.mesh.topology import Topology

__all__ = ["any_of_row", "subset"]


def subset(
    geo: Geo,
    faces: Flags | None = None,
    curves: Flags | None = None,
    points: Flags | None = None,
    *,
    leftovers: bool = False,
    loose: bool = True,
) -> Geo:
    """Return the marked faces ``(F,)`` and curves ``(K,)`` (all, if not given) with the points they use.

    ``points (P,)`` may forbid points; faces and curves through forbidden points must not be marked. Points that lose
    their last face or curve stay only if ``leftovers``; points that were loose before stay if ``loose``.
    """
    shape = geo.topology
    chosen_faces = np.flatnonzero(faces) if faces is not None else np.arange(shape.face_count)
    chosen_curves = np.flatnonzero(curves) if curves is not None else np.arange(shape.curve_count)
    corners, face_start = ragged_index(shape.face_start, chosen_faces)
    used, curve_start = ragged_index(shape.curve_start, chosen_curves)
    stays = np.ones(shape.point_count, bool) if points is None else points.copy()
    needed = np.zeros(shape.point_count, bool)
    needed[shape.corner_point[corners]] = True
    needed[shape.curve_point[used]] = True
    if not leftovers:
        stays &= needed | ~shape.used_points
    if not loose:
        stays &= needed | shape.used_points
    where = np.flatnonzero(stays)
    number = np.full(shape.point_count, -1, np.int32)
    number[where] = np.arange(len(where))
    topology = Topology(
        len(where),
        face_start,
        number[shape.corner_point[corners]],
        curve_start,
        number[shape.curve_point[used]],
        shape.curve_closed[chosen_curves],
        shape.instance_count,
    )
    maps: dict[Kind, Map] = {
        "point": kept(where),
        "face": kept(chosen_faces),
        "corner": kept(corners),
        "curve": kept(chosen_curves),
    }
    if geo.attributes["edge"]:
        maps["edge"] = edges_along(topology, shape.corner_edge[corners])
    return carry(geo, topology, maps)


def any_of_row(start: AnyArray, flags: Flags) -> Flags:
    """Return, per row ``start (N+1,)``, whether any of its ``flags`` is set ``(N,)``. Rows must not be empty."""
    if len(start) < 2:
        return np.zeros(0, bool)
    return np.logical_or.reduceat(flags, start[:-1])
