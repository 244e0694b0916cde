"""Places held by a face and where in it they are, so that they follow when the face moves, bends or grows."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np

from reticula.core.arrays import Floats, Ints, UInts
from reticula.core.geometry import Geo
from reticula.core.geometry.edit.placement import to_own_space, to_world
from reticula.core.geometry.measure.areas import face_areas
from reticula.core.geometry.mesh.geo import once_per_geo
from reticula.core.spatial.sampling import sample_closest
from reticula.core.spatial.true_size import true_size

__all__ = ["Anchor", "anchored", "anchors_of", "is_anchor"]

Anchor = list[Any]
"""The name of a face as hexadecimal text; which three of its corners, counted in the face, span the place; the shares
of the first two; and the square root of its area, m.
"""
DIGITS = 5


def is_anchor(value: Any) -> bool:
    """Return whether plain data is an anchor."""
    if not isinstance(value, (list, tuple)) or len(value) != 7 or not isinstance(value[0], str):
        return False
    numbers = all(isinstance(part, (int, float)) and not isinstance(part, bool) for part in value[1:])
    corners = numbers and all(part == int(part) and 0 <= part < 2**31 for part in value[1:4])
    try:
        named = 0 <= int(value[0], 16) < 2**64
    except ValueError:
        named = False
    return named and corners and bool(np.isfinite(value[4:]).all()) and value[6] >= 0


def anchors_of(geo: Geo, places: Floats) -> tuple[list[Anchor], Floats]:
    """Return an anchor for each of ``places (N, 3)`` in the world, at the face that is nearest to it, and the places in
    the geometry's own space ``(N, 3)``. There are no anchors on what has no faces.
    """
    found = sample_closest(to_world(geo), places)
    shape = geo.topology
    if not shape.face_count or not len(places):
        return [], to_own_space(geo, places)
    weights: Any = found.maps["corner"].weights
    corner, share = weights.column.reshape(-1, 3), weights.value.reshape(-1, 3)
    face = found.face
    first = corner - shape.face_start[face][:, None]
    names, size = geo.identity("face")[face], _sizes(geo)[face]
    rows = zip(names.tolist(), first.tolist(), share.tolist(), size.tolist(), strict=True)
    made = [[f"{name:x}", *at, round(part[0], DIGITS), round(part[1], DIGITS), area] for name, at, part, area in rows]
    return made, (share[:, :, None] * geo.positions[shape.corner_point[corner]]).sum(axis=1)


def anchored(geo: Geo, anchors: Sequence[Anchor], places: Floats) -> tuple[Floats, Floats]:
    """Return where the anchors are now ``(N, 3)``, in the own space, and how much larger lengths are there ``(N,)``.

    One whose face is not there any more is at its entry of ``places (N, 3)``, at its old size.
    """
    where, growth = np.array(places), np.ones(len(places))
    if not len(anchors) or not geo.topology.face_count:
        return where, growth
    shape = geo.topology
    order, sorted_names, sizes = _by_name(geo)
    wanted = np.array([int(one[0], 16) for one in anchors], np.uint64)
    offset = np.array([one[1:4] for one in anchors], np.int64)
    u, v, size = np.array([one[4:] for one in anchors], np.float64).T
    row = np.minimum(np.searchsorted(sorted_names, wanted), len(order) - 1)
    face = order[row]
    there = (sorted_names[row] == wanted) & (offset.max(axis=1) < shape.face_size[face])
    corner = shape.face_start[face[there]][:, None] + offset[there]
    share = np.stack([u, v, 1.0 - u - v], axis=1)[there]
    where[there] = (share[:, :, None] * geo.positions[shape.corner_point[corner]]).sum(axis=1)
    now = sizes[face]
    grown = there & (size > 0) & (now > 0)
    growth[grown] = now[grown] / size[grown]
    return where, growth


@once_per_geo
def _by_name(geo: Geo) -> tuple[Ints, UInts, Floats]:
    """The faces in the order of their names, the sorted names, and the size of each face in its own order."""
    names = geo.identity("face")
    order = np.argsort(names, kind="stable")
    return order, names[order], _sizes(geo)


def _sizes(geo: Geo) -> Floats:
    """The square root of the area of each face ``(F,)`` where it stands, m."""
    return np.sqrt(face_areas(true_size(geo).geo))
