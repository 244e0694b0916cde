"""Rename attribute: the same values under another name."""

from __future__ import annotations

from typing import cast

from reticula.core.errors import ParameterError
from reticula.core.geometry import Geo, Kind
from reticula.core.geometry.mesh.kinds import KINDS
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import AttributeName, KindChoice

__all__ = ["rename_attribute"]


@operator(
    "rename_attribute",
    family="attributes",
    keywords=("name", "call", "group"),
    carries="Carries all; one attribute has another name.",
    example="""
        tile = noise_values(grid(cells=[30, 30]), name="rough")
        renamed = rename_attribute(tile, name="rough", to="height")
        displace(renamed, value="height", amount=0.1, along="direction")
    """,
    related=("remove_attributes", "convert_attribute", "set_attribute"),
    parameters=(
        KindChoice.of(KINDS, "point", "what has the attribute"),
        AttributeName("name", "", "attribute or group to rename", optional=True),
        AttributeName("to", "", "its new name", new=True, optional=True),
    ),
)
def rename_attribute(geo: Geo, *, kind: str, name: str, to: str) -> Geo:
    """Give an attribute or group another name."""
    on = cast(Kind, kind)
    if not name or not to or name == to:
        return geo
    if name == "position" and on == "point":
        raise ParameterError("name", "points need their position; set an attribute from it instead")
    if geo.has(on, to):
        raise ParameterError("to", f"there is a {on} attribute '{to}' already; remove it first")
    return geo.with_attribute(on, to, geo.find(on, name)).without_attribute(on, name)
