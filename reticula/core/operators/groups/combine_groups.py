"""Combine groups: and, or, not, minus."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Flags
from reticula.core.geometry import Geo
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Choice, Selection
from reticula.core.operators.shared.group_marking import MADE, marked, naming

__all__ = ["combine_groups"]


@operator(
    "combine_groups",
    family="groups",
    keywords=("and", "or", "not", "minus", "union", "intersection", "difference", "invert", "boolean"),
    carries=MADE,
    example="""
        ball = geodesic_sphere(frequency=14)
        top = group(ball, name="top", where="position.y > 0")
        front = group(top, name="front", where="position.z > 0")
        both = combine_groups(front, name="corner", first="top", how="and", second="front")
        set_attribute(both, kind="face", name="color", where="corner", value=CORAL)
    """,
    related=("group", "convert_group", "grow_group"),
    parameters=(
        *naming("combined"),
        Selection("first", "", "a group or a formula; empty means all", on="kind"),
        Choice(
            "how",
            "minus",
            "how they combine",
            options={
                "and": "in both",
                "or": "in one or both",
                "minus": "in the first and not in the second",
                "either": "in one and not in both",
                "not": "not in the first",
            },
        ),
        Selection("second", "False", "a group or a formula", on="kind"),
    ),
)
def combine_groups(geo: Geo, *, name: str, kind: str, first: Flags, how: str, second: Flags) -> Geo:
    """Make a group of two others."""
    members = {
        "and": first & second,
        "or": first | second,
        "minus": first & ~second,
        "either": first ^ second,
        "not": ~first,
    }[how]
    return marked(geo, kind, name, np.asarray(members))
