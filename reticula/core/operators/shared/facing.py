"""Which way faces look: neighbours alike, closed parts outwards."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats
from reticula.core.geometry import Geo
from reticula.core.geometry.edit.flip import flipped
from reticula.core.geometry.edit.orientation import consistent_orientation
from reticula.core.geometry.edit.subset import subset
from reticula.core.geometry.measure.areas import area_vectors
from reticula.core.spatial.inside import inside
from reticula.core.spatial.solids import part_boxes, part_volumes

__all__ = ["Facing", "find_orientation"]


class Facing(NamedTuple):
    """Which faces are to be ``turned (F,)``, in how many ``regions``, and the number of edges that are ``torn``."""

    turned: Flags
    regions: int
    torn: int


def find_orientation(geo: Geo, where: Flags, closed: str, direction: Floats | None) -> Facing:
    """Return which faces to turn over so that those that touch along an edge look the same way.

    ``closed`` is one of the options of *orient faces*; open regions look along ``direction (3,)`` if that is given,
    else as most of their area does.
    """
    shape = geo.topology
    found = consistent_orientation(shape, where)
    count = int(found.region.max(initial=-1)) + 1
    rows = np.flatnonzero(found.region >= 0)
    region = found.region[rows]
    sign = np.where(found.turned, -1.0, 1.0)
    area = area_vectors(geo)
    size = np.linalg.norm(area, axis=1)
    keeps = np.bincount(region, (sign * size)[rows], minlength=count)
    is_open = _open_regions(geo, found.region, found.torn, count)
    wanted = keeps.copy()
    if direction is not None:
        along = np.bincount(region, (sign * (area @ direction))[rows], minlength=count)
        wanted = np.where(is_open & (along != 0.0), along, wanted)
    if closed != "most":
        volume = part_volumes(geo, found.region, count, sign)
        if closed in ("hollows inwards", "outermost outwards"):
            outward = np.zeros(shape.face_count, bool)
            outward[rows] = found.turned[rows] != (volume < 0)[region]
            depth = _depths(flipped(geo, outward), found.region, ~is_open & (volume != 0.0), count)
            if closed == "hollows inwards":
                volume *= np.where(depth % 2, -1.0, 1.0)
            else:
                volume = np.where(depth > 0, keeps, volume)
        wanted = np.where(is_open | (volume == 0.0), wanted, volume)
    turned = np.zeros(shape.face_count, bool)
    turned[rows] = found.turned[rows] != (wanted < 0)[region]
    return Facing(turned, count, int(found.torn.sum()))


def _open_regions(geo: Geo, region: AnyArray, torn: Flags, count: int) -> Flags:
    """Whether a region has an edge that is not between two of its own faces, or is torn ``(N,)``."""
    shape = geo.topology
    start, corner = shape.edge_corners
    of_corner = region[shape.corner_face[corner]]
    out = np.zeros(count, bool)
    if len(corner):
        low, high = np.minimum.reduceat(of_corner, start[:-1]), np.maximum.reduceat(of_corner, start[:-1])
        ends = (shape.edge_face_count != 2) | (low != high) | torn
        members = of_corner[np.repeat(ends, np.diff(start))]
        out[members[members >= 0]] = True
    return out


def _depths(geo: Geo, region: AnyArray, closed: Flags, count: int) -> AnyArray:
    """In how many other ``closed (N,)`` regions, which look outwards, each one lies ``(N,)``: by one of its points."""
    shape = geo.topology
    depth = np.zeros(count, np.int64)
    first = np.zeros(count, np.int64)
    rows = np.flatnonzero(region >= 0)[::-1]
    first[region[rows]] = shape.corner_point[shape.face_start[rows]]
    place = geo.positions[first]
    boxes = part_boxes(geo, region, count)
    for n in np.flatnonzero(closed):
        within = (place >= boxes[n, 0]).all(axis=1) & (place <= boxes[n, 1]).all(axis=1)
        within[n] = False
        others = np.flatnonzero(within)
        if len(others):
            depth[others] += inside(subset(geo, region == n, loose=False), place[others])
    return depth
