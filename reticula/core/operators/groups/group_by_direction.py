"""Group by direction: elements whose normal points some way."""

from __future__ import annotations

from typing import cast

import numpy as np

from reticula.core.arrays import Flags
from reticula.core.errors import ParameterError
from reticula.core.geometry import Geo, Kind
from reticula.core.geometry.edit.placement import place_of, to_own_space
from reticula.core.language.scope import Scope
from reticula.core.operators.declaration.operator import Input, operator
from reticula.core.operators.declaration.parameters import Choice, Handle, Number, Selection, Vector
from reticula.core.operators.shared.group_marking import COMBINE, MADE, centers_of, marked, naming
from reticula.core.rows import unit

__all__ = ["group_by_direction"]


@operator(
    "group_by_direction",
    family="groups",
    inputs=(Input(), Input("target", "its middle is the point that is faced, if it is connected", optional=True)),
    keywords=("normal", "facing", "slope", "angle", "up", "towards", "camera", "overhang"),
    sections={
        "what counts": ("given_in", "angle", "combine"),
    },
    carries=MADE,
    example="""
        rock = displace(geodesic_sphere(frequency=24), amount=0.12)
        floor = group_by_direction(rock, name="up", angle=40)
        set_attribute(floor, kind="face", name="color", where="up", value=CORAL)
    """,
    related=("group", "group_inside", "raycast"),
    parameters=(
        *naming("facing", ("face", "point", "corner")),
        Choice(
            "facing",
            "direction",
            "what the normal is held against",
            options={
                "direction": "a fixed direction",
                "point": "the way to a point",
            },
        ),
        Vector(
            "direction",
            [0.0, 1.0, 0.0],
            "which way; the length does not matter",
            shown_when=("facing", "direction"),
            handle=Handle("direction"),
        ),
        Vector(
            "point",
            [0.0, 1.0, 0.0],
            "the point that is faced",
            unit="m",
            soft=(-5, 5),
            shown_when=("facing", "point"),
            handle=Handle("place"),
        ),
        Choice(
            "given_in",
            "this",
            "space of the direction or point",
            options={
                "this": "in this mesh's own space",
                "world": "in the world, where the mesh stands",
            },
        ),
        Number(
            "angle",
            45.0,
            "largest angle between the normal and that way",
            unit="°",
            soft=(0, 180),
            low=0.0,
            high=180.0,
            step=1,
        ),
        Selection("where", "", "which elements may be members; empty means all", on="kind"),
        COMBINE,
    ),
)
def group_by_direction(
    geo: Geo,
    target: Geo | None,
    *,
    name: str,
    kind: str,
    facing: str,
    direction: list[float],
    point: list[float],
    given_in: str,
    angle: float,
    where: Flags,
    combine: str,
) -> Geo:
    """Name elements whose normal lies within an angle of a direction, or looks at a point."""
    on = cast(Kind, kind)
    if facing == "point" or target is not None:
        place = np.array(point) if given_in == "this" else to_own_space(geo, np.array(point))
        if target is not None:
            place = target.bounds.mean(axis=0)
        way = unit(place - centers_of(geo, kind))
    else:
        if not any(direction):
            raise ParameterError("direction", "a direction of 0 points nowhere; give it a length")
        vector = np.array(direction)
        if given_in == "world":
            vector = np.linalg.inv(place_of(geo))[:3, :3] @ vector
        way = unit(vector[None])
    normals = Scope(geo, on).values(on, "normal")
    cosine = np.einsum("ij,ij->i", unit(normals), np.broadcast_to(way, normals.shape))
    flat = (normals != 0).any(axis=1) & (way != 0).any(axis=1)
    members = where & flat & (cosine >= np.cos(np.radians(angle)) - 1e-12)
    return marked(geo, kind, name, members, combine)
