"""Apply place: move a shape's points to where it stands."""

from __future__ import annotations

from reticula.core.diagnostics import note
from reticula.core.geometry import Geo
from reticula.core.geometry.edit.placement import has_place, to_world
from reticula.core.operators.declaration.operator import operator

__all__ = ["apply_place"]


@operator(
    "apply_place",
    family="spaces",
    keywords=("object", "local", "world", "bake", "freeze", "settle", "transform"),
    carries="Carries all; takes the attribute 'place' of the whole away. Stored normals, rotations and "
    "velocities turn along.",
    example="""
        tile = set_place(box(size=[0.5, 0.1, 0.5]), turn=[0, 0, 25])
        baked = apply_place(tile)
        group_up = group_by_direction(baked, name="up", angle=30)
        set_attribute(group_up, kind="face", name="color", where="up", value=CORAL)
    """,
    related=("set_place", "transform"),
    parameters=(),
)
def apply_place(geo: Geo) -> Geo:
    """Move points to where the shape stands, so that its own space is the world."""
    if not has_place(geo):
        note("It has no place of its own, so nothing changes.")
        return geo
    return to_world(geo)
