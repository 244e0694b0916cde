"""Parts of a geometry: some faces, curves and points, in their old order with all their values."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Indices, ragged_index
from reticula.core.geometry.mesh.adjacency import edges_of_part
from reticula.core.geometry.mesh.carry import Map, carry
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.mesh.kinds import Kind
from reticula.core.geometry.mesh.source_maps import kept
from reticula.core.geometry.mesh.topology import Topology
from reticula.core.jit import kernel

__all__ = ["Part", "any_of_row", "only", "part_of", "subset"]


class Part(NamedTuple):
    """Some elements of a topology: the ``topology`` of the part, and the old numbers of its elements by kind."""

    topology: Topology
    points: AnyArray
    faces: Indices
    corners: Indices
    curves: AnyArray


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
    return only(geo, part_of(geo.topology, faces, curves, points, leftovers=leftovers, loose=loose))


def part_of(
    shape: Topology,
    faces: Flags | None = None,
    curves: Flags | None = None,
    points: Flags | None = None,
    *,
    leftovers: bool = False,
    loose: bool = True,
) -> Part:
    """Return what :func:`subset` takes, to be used for several geometries of one topology."""
    chosen_curves = np.flatnonzero(curves) if curves is not None else np.arange(shape.curve_count)
    used, curve_start = ragged_index(shape.curve_start, chosen_curves)
    stays = np.ones(shape.point_count, bool) if points is None else points.copy()
    needed = np.zeros(shape.point_count, bool)
    needed[shape.curve_point[used]] = True
    every = np.ones(shape.face_count, bool) if faces is None else faces
    chosen_faces, face_start, corners = _taken(shape.face_start, shape.corner_point, every, needed)
    if not leftovers:
        stays &= needed | ~shape.used_points
    if not loose:
        stays &= needed | shape.used_points
    where = np.flatnonzero(stays)
    number = np.full(shape.point_count, -1, np.int32)
    number[where] = np.arange(len(where), dtype=np.int32)
    topology = Topology(
        len(where),
        face_start,
        _renumbered(shape.corner_point, corners, number),
        curve_start,
        number[shape.curve_point[used]],
        shape.curve_closed[chosen_curves],
        shape.instance_count,
    )
    return Part(topology, where, chosen_faces, corners, chosen_curves)


def only(geo: Geo, part: Part) -> Geo:
    """Return a part of a geometry, found in its topology."""
    maps: dict[Kind, Map] = {
        "point": kept(part.points),
        "face": kept(part.faces),
        "corner": kept(part.corners),
        "curve": kept(part.curves),
    }
    if geo.attributes["edge"]:
        shape, here = geo.topology, part.topology
        found = edges_of_part(shape.corner_edge, shape.edge_count, part.corners, here.corner_point, here.corner_next)
        here.know_edges(found.edges, found.corner_edge)
        maps["edge"] = kept(found.old)
    return carry(geo, part.topology, maps)


@kernel
def _taken(
    face_start: Indices, corner_point: Indices, chosen: Flags, needed: Flags
) -> tuple[Indices, Indices, Indices]:
    """The chosen faces, where they begin then, and their corners; marks the points that are ``needed``."""
    count = corners = 0
    for f in range(len(chosen)):
        if chosen[f]:
            count += 1
            corners += face_start[f + 1] - face_start[f]
    faces, start = np.empty(count, np.int32), np.empty(count + 1, np.int32)
    corner = np.empty(corners, np.int32)
    number = at = 0
    for f in range(len(chosen)):
        if chosen[f]:
            faces[number], start[number] = f, at
            number += 1
            for c in range(face_start[f], face_start[f + 1]):
                corner[at] = c
                needed[corner_point[c]] = True
                at += 1
    start[count] = at
    return faces, start, corner


@kernel
def _renumbered(corner_point: Indices, corners: Indices, number: Indices) -> Indices:
    out = np.empty(len(corners), np.int32)
    for i in range(len(corners)):
        out[i] = number[corner_point[corners[i]]]
    return out


def any_of_row(start: AnyArray, flags: Flags) -> Flags:
    """Return, per row ``start (N+1,)``, whether any of its ``flags`` is set ``(N,)``. Rows must not be empty."""
    if len(start) < 2:
        return np.zeros(0, bool)
    return np.logical_or.reduceat(flags, start[:-1])
