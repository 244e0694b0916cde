"""Group at random."""

from __future__ import annotations

from typing import cast

import numpy as np

from reticula.core.arrays import Flags, Floats
from reticula.core.diagnostics import warn
from reticula.core.geometry import Geo, Kind
from reticula.core.geometry.mesh.identity import unit_random
from reticula.core.geometry.mesh.kinds import PLURAL
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Choice, Integer, PerElement, Selection
from reticula.core.operators.shared.group_marking import COMBINE, MADE, marked, naming

__all__ = ["group_at_random"]


@operator(
    "group_at_random",
    family="groups",
    keywords=("some", "share", "chance", "probability", "sample", "pick"),
    carries=MADE,
    example="""
        tile = grid(cells=[14, 14])
        some = group_at_random(tile, name="some", share=0.3, seed=4)
        extrude(some, where="some", together=False, distance=0.08, inset=0.008)
    """,
    related=("random_values", "group_by_pattern", "scatter"),
    parameters=(
        *naming("some"),
        Choice("by", "share", "how many", options={"share": "each element with a chance", "count": "an exact number"}),
        PerElement("share", 0.5, "chance of each element, 0 to 1", on="kind", shown_when=("by", "share")),
        Integer("count", 10, "exactly this many", soft=(1, 1000), low=0, shown_when=("by", "count")),
        Integer("seed", 0, "another number gives another choice", soft=(0, 100)),
        Selection("where", "", "which elements may be members; empty means all", on="kind"),
        COMBINE,
    ),
)
def group_at_random(
    geo: Geo, *, name: str, kind: str, by: str, share: Floats, count: int, seed: int, where: Flags, combine: str
) -> Geo:
    """Name some elements at random.

    Each element keeps its lot when others are added or removed; with an exact number, those with the lowest lots win.
    """
    on = cast(Kind, kind)
    lot = unit_random(geo.identity(on), seed)
    if by == "share":
        members = where & (lot < share)
    else:
        able = np.flatnonzero(where)
        if count > len(able):
            warn(f"Only {len(able):,} {PLURAL[kind]} can be members; {count:,} are asked for.")
        members = np.zeros(len(where), bool)
        members[able[np.argsort(lot[able], kind="stable")[:count]]] = True
    return marked(geo, kind, name, members, combine)
