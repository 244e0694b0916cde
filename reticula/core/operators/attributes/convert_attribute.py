"""Convert attribute: the same values as another type."""

from __future__ import annotations

from typing import cast

from reticula.core.diagnostics import note, warn
from reticula.core.errors import ParameterError
from reticula.core.geometry import Attribute, Geo, Kind
from reticula.core.geometry.mesh.attribute_types import TYPES
from reticula.core.geometry.mesh.kinds import KINDS
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import AttributeName, Choice, KindChoice
from reticula.core.words import with_article

__all__ = ["convert_attribute"]

MORE = {
    "number": "; of a vector the first component, of a text its number",
    "integer": ", rounded",
    "flag": ": yes where it is not 0 or empty",
    "vec4": "; a fourth component is 1",
}
"""What becomes of values that do not fit as they are."""


@operator(
    "convert_attribute",
    family="attributes",
    keywords=("type", "retype", "cast", *(name for name, info in TYPES.items() if info.cast)),
    carries="Carries all; one attribute has another type.",
    example="""
        ball = geodesic_sphere(frequency=12)
        noisy = noise_values(ball, name="wet", rescale=True, low=0, high=1)
        whole = convert_attribute(noisy, name="wet", type="flag")
        set_attribute(whole, kind="point", name="color", where="wet", value=CORAL)
    """,
    related=("set_attribute", "rename_attribute", "move_attribute"),
    parameters=(
        KindChoice.of(KINDS, "point", "what has the attribute"),
        AttributeName("name", "", "attribute to convert", optional=True),
        Choice(
            "type",
            "number",
            "its new type",
            options={name: info.about + MORE.get(name, "") for name, info in TYPES.items() if info.cast},
        ),
    ),
)
def convert_attribute(geo: Geo, *, kind: str, name: str, type: str) -> Geo:
    """Give an attribute another type, its values turned over as well as they can be."""
    on = cast(Kind, kind)
    if not name:
        return geo
    found = geo.find(on, name)
    if found.type == type:
        return geo
    if found.info.cast is None:
        raise ParameterError("name", f"'{name}' is {with_article(found.type)}, which cannot be converted")
    if (on, name) == ("point", "position"):
        raise ParameterError("name", "points need their position as it is; set an attribute from it instead")
    made, bad = TYPES[type].made_of(found.values, found.info)
    if bad:
        warn(f"{bad:,} of {len(made):,} texts are no numbers and became 0.")
    note(f"'{name}' was {with_article(found.type)} and is {with_article(type)} now.")
    return geo.with_attribute(on, name, Attribute.of(made, type))
