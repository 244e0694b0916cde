"""Set attribute: values by formula."""

from __future__ import annotations

from typing import cast

import numpy as np

from reticula.core.arrays import Flags
from reticula.core.errors import ParameterError
from reticula.core.geometry import Attribute, Geo, Kind
from reticula.core.geometry.kinds import KINDS, PLURAL
from reticula.core.language import Values
from reticula.core.notes import note, warn
from reticula.core.operators.declare import operator
from reticula.core.operators.parameters import AttributeName, Choice, KindChoice, Varying, Where

__all__ = ["set_attribute"]


@operator(
    "set_attribute",
    family="attributes",
    keywords=("value", "formula", "colour", "color", "displace", "move"),
    carries="Carries all; adds or replaces the attribute.",
    parameters=(
        AttributeName("name", "value", "attribute to make or change; 'position' moves the points", new=True),
        KindChoice.of(KINDS, "point", "what has the attribute"),
        Where("where", "", "which elements receive the value; empty means all", on="kind"),
        Choice("type", "automatic", "type of the attribute", options={
            "automatic": "what the formula gives", "number": "a real number", "integer": "a whole number",
            "flag": "yes or no, a group", "vec2": "two numbers", "vec3": "three numbers", "vec4": "four numbers, or a colour",
            "text": "text",
        }),
        Varying("value", {"formula": "fraction"}, "what each element gets", on="kind", type="as chosen"),
    ),
)  # fmt: skip
def set_attribute(geo: Geo, *, name: str, kind: str, where: Flags, type: str, value: Values) -> Geo:
    """Give every element a value worked out by a formula.

    Elements outside of ``where`` keep the value they had, or get the type's zero if the attribute is new.
    """
    on = cast(Kind, kind)
    if name == "position" and (kind != "point" or value.type != "vec3"):
        raise ParameterError("name", f"'position' is a vec3 of each point; this gives a {value.type} of each {kind}")
    made = Attribute.of(np.array(value.array), value.type)
    if where.all():
        return geo.with_attribute(on, name, made)
    left = len(where) - int(where.sum())
    if geo.has(on, name) and geo.find(on, name).type == value.type:
        old = geo.find(on, name)
        note(f"Set {len(where) - left:,} {PLURAL[kind]}; {left:,} keep the value they had.")
    else:
        if geo.has(on, name):
            warn(
                f"'{name}' was a {geo.find(on, name).type} and is a {value.type} now; {left:,} {PLURAL[kind]} lost their old value."
            )
        else:
            note(
                f"'{name}' is new: {left:,} {PLURAL[kind]} outside of 'where' hold {'no' if value.type == 'flag' else 0}."
            )
        old = Attribute.filled(value.type, len(where))
    both = Attribute.concatenate([old, made])
    count = len(where)
    return geo.with_attribute(on, name, both.take(np.where(where, np.arange(count) + count, np.arange(count))))
