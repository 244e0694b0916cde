"""Orient faces: neighbours look the same way, closed parts outwards."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray, Flags
from reticula.core.diagnostics import note, warn
from reticula.core.geometry import Geo
from reticula.core.geometry.edit.flip import flipped
from reticula.core.geometry.edit.orientation import consistent_orientation
from reticula.core.geometry.edit.subset import subset
from reticula.core.geometry.measure.areas import area_vectors
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Choice, Handle, Selection, Vector
from reticula.core.spatial.inside import inside
from reticula.core.spatial.solids import part_boxes, part_volumes

__all__ = ["orient_faces"]


@operator(
    "orient_faces",
    family="topology",
    keywords=("normals", "flip", "consistent", "outside", "unify", "winding", "repair", "inside out"),
    carries="Carries all; corner values go with their corners, and stored normals of what is turned point the other "
    "way.",
    parameters=(
        Selection.each("face", "faces that may be turned; empty means all"),
        Choice(
            "closed",
            "outwards",
            "which way closed parts look",
            options={
                "outwards": "outwards, each by itself",
                "hollows inwards": "outwards, inwards where one lies inside another, and so on by turns",
                "most": "as most of their area does now",
            },
        ),
        Choice(
            "open",
            "most",
            "which way open parts look",
            options={
                "most": "as most of their area does now",
                "direction": "along a direction, as far as most of their area can",
            },
        ),
        Vector(
            "direction",
            [0.0, 1.0, 0.0],
            "the direction",
            soft=(-1.0, 1.0),
            shown_when=("open", "direction"),
            handle=Handle("direction"),
        ),
    ),
)
def orient_faces(geo: Geo, *, where: Flags, closed: str, open: str, direction: list[float]) -> Geo:
    """Turn faces over so that all that touch along an edge look the same way.

    Regions end at open borders, at edges of more than two faces and at faces that are not marked. A region that closes
    looks outwards (its volume is positive); others look as most of their area does, or along a direction. Where a band
    has one side only, the edges across which its faces cannot agree are told.
    """
    shape = geo.topology
    if not where.any():
        warn("No face is marked, so nothing was turned.")
        return geo
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
    if open == "direction":
        along = np.bincount(region, (sign * (area @ np.asarray(direction)))[rows], minlength=count)
        wanted = np.where(is_open & (along != 0.0), along, wanted)
    if closed != "most":
        volume = part_volumes(geo, found.region, count, sign)
        if closed == "hollows inwards":
            outward = np.zeros(shape.face_count, bool)
            outward[rows] = found.turned[rows] != (volume < 0)[region]
            depth = _depths(flipped(geo, outward), found.region, ~is_open & (volume != 0.0), count)
            volume *= np.where(depth % 2, -1.0, 1.0)
        wanted = np.where(is_open | (volume == 0.0), wanted, volume)
    turned = np.zeros(shape.face_count, bool)
    turned[rows] = found.turned[rows] != (wanted < 0)[region]
    if found.torn.any():
        warn(f"{int(found.torn.sum()):,} edges lie on bands with one side, so the faces beside them cannot agree.")
    note(f"Turned {int(turned.sum()):,} of {shape.face_count:,} faces, in {count:,} regions.")
    return flipped(geo, turned, np.zeros(shape.curve_count, bool)) if turned.any() else geo


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
