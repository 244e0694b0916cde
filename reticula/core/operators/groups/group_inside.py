"""Group inside: elements inside of a box, a sphere or a mesh."""

from __future__ import annotations

from typing import cast

import numpy as np

from reticula.core.arrays import Flags, Floats
from reticula.core.diagnostics import warn
from reticula.core.errors import GeometryError
from reticula.core.geometry import Geo, Kind
from reticula.core.geometry.mesh.incidence import convert_flags
from reticula.core.operators.declaration.operator import Input, operator
from reticula.core.operators.declaration.parameters import Choice, Handle, Number, Space, Toggle, Vector
from reticula.core.operators.shared.group_marking import COMBINE, MADE, centers_of, marked, naming
from reticula.core.spatial.winding import winding_numbers

__all__ = ["group_inside"]


@operator(
    "group_inside",
    family="groups",
    inputs=(Input(), Input("volume", "mesh to be inside of; may have holes", optional=True)),
    keywords=("within", "contained", "region", "bounding", "volume", "winding", "enclosed"),
    sections={
        "what counts": ("counts", "outside", "combine"),
        "space": ("space",),
    },
    carries=MADE,
    example="""
        tile = grid(cells=[30, 30])
        inside = group_inside(tile, name="basin", shape="sphere", center=[0.1, 0, 0], radius=0.3)
        extrude(inside, where="basin", distance=-0.1, inset=0.02)
    """,
    related=("group_by_nearness", "boolean", "group"),
    parameters=(
        *naming("inside", ("face", "point", "edge", "corner", "curve")),
        Choice(
            "shape",
            "box",
            "inside of what",
            options={
                "box": "a box along the axes",
                "sphere": "a sphere",
                "mesh": "the mesh connected to 'volume'",
            },
        ),
        Vector(
            "center", [0.0, 0.5, 0.0], "middle of the box or sphere", unit="m", soft=(-2, 2), handle=Handle("place")
        ),
        Vector(
            "size",
            [1.0, 1.0, 1.0],
            "sides of the box",
            unit="m",
            soft=(0, 4),
            low=0.0,
            shown_when=("shape", "box"),
            handle=Handle("size", ("center",)),
        ),
        Number("radius", 0.5, "radius of the sphere", unit="m", soft=(0, 4), low=0.0, shown_when=("shape", "sphere")),
        Choice(
            "counts",
            "middle",
            "when an element is inside",
            options={
                "middle": "its middle is",
                "any": "any of its points is",
                "all": "all of its points are",
            },
        ),
        Toggle("outside", False, "name those outside instead"),
        COMBINE,
        Space.choice(),
    ),
)
def group_inside(
    geo: Geo,
    volume: Geo | None,
    *,
    name: str,
    kind: str,
    shape: str,
    center: list[float],
    size: list[float],
    radius: float,
    counts: str,
    outside: bool,
    combine: str,
    space: str,
) -> Geo:
    """Name elements inside of a box, a sphere or a mesh.

    A mesh may have holes and open borders: a place is inside if the mesh covers more than half of the view from there
    (generalised winding number). The faces must look outwards.
    """

    def within(places: Floats) -> Flags:
        if shape == "box":
            return np.asarray((np.abs(places - center) <= np.array(size) / 2).all(axis=1))
        if shape == "sphere":
            return np.asarray(np.linalg.norm(places - center, axis=1) <= radius)
        if volume is None:
            raise GeometryError("nothing is connected to 'volume'; connect the mesh, or choose a box or a sphere")
        return winding_numbers(volume, places) > 0.5

    if counts == "middle":
        members = within(centers_of(geo, kind))
    else:
        members = convert_flags(geo, "point", cast(Kind, kind), within(geo.positions), counts)
    hint = ""
    if shape == "mesh" and volume is not None and not members.any() and len(members):
        if (winding_numbers(volume, centers_of(geo, kind)) < -0.5).any():
            warn("The faces of 'volume' look inwards, so its inside counts as outside; put reverse before it.")
        else:
            hint = "Check whether both meshes lie where you expect."
    return marked(geo, kind, name, members ^ outside, combine, hint)
