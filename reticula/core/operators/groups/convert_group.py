"""Convert group: from one element kind to another."""

from __future__ import annotations

from typing import cast

import numpy as np

from reticula.core.arrays import Flags
from reticula.core.geometry import Geo, Kind
from reticula.core.geometry.mesh.incidence import convert_flags
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Choice, GroupName, KindChoice, Selection
from reticula.core.operators.shared.group_marking import ALL, MADE, marked

__all__ = ["convert_group"]


@operator(
    "convert_group",
    family="groups",
    keywords=("promote", "points", "faces", "edges", "any", "all", "kind"),
    carries=MADE,
    example="""
        tile = grid(cells=[12, 12])
        marked = group(tile, name="seed", kind="point", where="index == 84 or index == 30")
        around = convert_group(marked, kind="point", where="seed", to="face", name="around")
        extrude(around, where="around", distance=0.12)
    """,
    related=("grow_group", "combine_groups", "move_attribute"),
    parameters=(
        KindChoice.of(ALL, "face", "what the old group holds"),
        Selection("where", "", "the group, or a formula", on="kind"),
        KindChoice.of(ALL, "point", "what the new group holds", name="to"),
        Choice(
            "counts",
            "any",
            "when an element becomes a member",
            options={
                "any": "one of what it is made of, or belongs to, is",
                "all": "all of these are",
            },
        ),
        GroupName("name", "converted", "name of the new group"),
    ),
)
def convert_group(geo: Geo, *, kind: str, where: Flags, to: str, counts: str, name: str) -> Geo:
    """Turn a group of one element kind into a group of another.

    Edges of a face group with 'any' include its border; with 'all' an edge counts if all of its faces are members.
    """
    members = convert_flags(geo, cast(Kind, kind), cast(Kind, to), np.asarray(where), counts)
    return marked(geo, to, name, members)
