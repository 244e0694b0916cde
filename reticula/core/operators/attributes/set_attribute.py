"""Set attribute: values by formula."""

from __future__ import annotations

from typing import Any, cast

from reticula.core.arrays import Flags
from reticula.core.errors import FormulaError, ParameterError
from reticula.core.geometry import Attribute, Geo, Kind
from reticula.core.geometry.mesh.attribute_types import TYPES
from reticula.core.geometry.mesh.kinds import KINDS
from reticula.core.language import Values, evaluate_once
from reticula.core.operators.declaration.operator import Input, operator
from reticula.core.operators.declaration.parameters import (
    AttributeName,
    Choice,
    KindChoice,
    PerElement,
    Selection,
    Space,
    Text,
)
from reticula.core.reports.attribute_writing import note_default, write_attribute

__all__ = ["set_attribute"]


@operator(
    "set_attribute",
    family="attributes",
    inputs=(
        Input(),
        Input("source", "geometry that the formulas may ask, e.g. source.closest(position).distance", optional=True),
    ),
    keywords=("value", "formula", "colour", "color", "displace", "move", "default"),
    carries="Carries all; adds or replaces the attribute.",
    example="""
        tile = grid(cells=[40, 40])
        rings = set_attribute(tile, name="height", value="0.08 * sin(24 * length(position))")
        displace(rings, value="height", amount=1, along="direction")
    """,
    related=("random_values", "noise_values", "formula_value", "script"),
    parameters=(
        AttributeName("name", "value", "attribute to make or change; 'position' moves the points", new=True),
        KindChoice.of(KINDS, "point", "what has the attribute"),
        Selection("where", "", "which elements receive the value; empty means all", on="kind"),
        Choice(
            "type",
            "automatic",
            "type of the attribute",
            options={
                "automatic": "what the formula gives",
                **{name: info.about for name, info in TYPES.items() if info.cast},
            },
        ),
        PerElement("value", {"formula": "fraction"}, "what each element gets", on="kind", type="as chosen"),
        Text(
            "default",
            "",
            "value of elements outside of 'where' and of elements made later; empty means the type's zero",
        ),
        Space.choice(),
    ),
)
def set_attribute(
    geo: Geo,
    source: Geo | None,
    *,
    name: str,
    kind: str,
    where: Flags,
    type: str,
    value: Values,
    default: str,
    space: str,
) -> Geo:
    """Give every element a value worked out by a formula.

    Elements outside of ``where`` keep the value they had, or get the default if the attribute is new.
    """
    new = not geo.has(cast(Kind, kind), name)
    made = Attribute.of(value.array.copy(), value.type)
    geo = write_attribute(geo, kind, name, made, where, default=_default(default, value.type))
    if new:
        note_default(geo, kind, name)
    return geo


def _default(text: str, type: str) -> Any:
    if not text.strip():
        return None
    if type == "text":
        return text
    try:
        return evaluate_once(text, type)
    except FormulaError as error:
        raise ParameterError("default", error.plain, cause=error) from None
