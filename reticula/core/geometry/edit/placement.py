"""The place where a shape stands: its own space, the world, and how one shape looks from another one's space."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Floats
from reticula.core.errors import GeometryError
from reticula.core.geometry.edit.affine import apply_affine
from reticula.core.geometry.mesh.geo import Geo

__all__ = ["PLACE", "has_place", "in_space_of", "place_of", "to_own_space", "to_world", "without_place"]

PLACE = "place"
"""The attribute of the whole (mat4) that leads from a shape's own space to the world."""


def place_of(geo: Geo) -> Floats:
    """Return the matrix ``(4, 4)`` from a geometry's own space to the world; the identity if it has no place."""
    if not has_place(geo):
        return np.eye(4)
    return np.asarray(geo.attribute("whole", PLACE)[0])


def has_place(geo: Geo) -> bool:
    return geo.has("whole", PLACE) and geo.find("whole", PLACE).type == "mat4"


def to_world(geo: Geo) -> Geo:
    """Return a geometry moved to where it stands, so that its own space is the world; remembered with the geometry."""
    return _seen_from(geo, np.eye(4))


def in_space_of(geo: Geo, into: Geo) -> Geo:
    """Return ``geo`` as it stands in the space of ``into``; itself if both share one space."""
    return _seen_from(geo, place_of(into))


def without_place(geo: Geo) -> Geo:
    """Return a geometry in its own space, as if that were the world; remembered with the geometry."""
    if not has_place(geo):
        return geo
    if "without place" not in geo._once:
        geo._once["without place"] = geo.without_attribute("whole", PLACE)
    kept: Geo = geo._once["without place"]
    return kept


def to_own_space(geo: Geo, place: Floats) -> Floats:
    """Return places in the world ``(3,)`` or ``(N, 3)`` in the geometry's own space."""
    matrix = np.linalg.inv(place_of(geo))
    return np.asarray(np.asarray(place) @ matrix[:3, :3].T + matrix[:3, 3])


def _seen_from(geo: Geo, target: Floats) -> Geo:
    own = place_of(geo)
    if np.array_equal(own, target):
        return geo
    key = f"seen from {target.tobytes().hex()}"
    if key not in geo._once:
        try:
            relative = np.linalg.inv(target) @ own
            np.linalg.inv(relative)
        except np.linalg.LinAlgError:
            raise GeometryError("the place of a shape squeezes it flat; scale it by more than 0") from None
        made = apply_affine(geo, relative)
        if np.array_equal(target, np.eye(4)):
            made = made.without_attribute("whole", PLACE)
        else:
            made = made.with_attribute("whole", PLACE, target[None], "mat4")
        geo._once[key] = made
    kept: Geo = geo._once[key]
    return kept
