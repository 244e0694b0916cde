"""Sheets cut by solids and by sheets."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats
from reticula.core.geometry import Geo
from reticula.core.geometry.measure.triangles import largest_triangle_middles
from reticula.core.operators.shared.solids.crossing_cuts import cut_at_crossings
from reticula.core.spatial.crossings import crossing_segments
from reticula.core.spatial.inside import behind, inside

__all__ = ["cut_sheet"]


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
        geo = cut_at_crossings(geo, partial(_crossed_by, other), size)
    within = np.zeros(geo.topology.face_count, bool)
    places = largest_triangle_middles(geo)
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


def _crossed_by(other: Geo, places: Floats, _: AnyArray) -> tuple[AnyArray, Floats]:
    return crossing_segments(places, other)


def _moved(geo: Geo, by: Floats) -> Geo:
    return geo.with_positions(geo.positions + by)
