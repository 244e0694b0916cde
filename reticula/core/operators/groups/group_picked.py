"""Group picked: elements chosen by hand."""

from __future__ import annotations

from collections.abc import Sequence
from typing import cast

import numpy as np

from reticula.core.arrays import UInts
from reticula.core.diagnostics import note, warn
from reticula.core.geometry import Geo, Kind
from reticula.core.geometry.mesh.identity import descendants
from reticula.core.geometry.mesh.kinds import PLURAL
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Toggle
from reticula.core.operators.shared.group_marking import COMBINE, MADE, marked, naming
from reticula.core.operators.shared.picked import Picked

__all__ = ["group_picked"]

FOLLOWED = ("face", "curve")
"""Kinds whose elements are split into others of their kind; a point stays one, and an edge is named by its ends."""


@operator(
    "group_picked",
    family="groups",
    keywords=("hand", "manual", "click", "pick"),
    carries=MADE,
    parameters=(
        *naming("picked"),
        Picked("elements", [], "what was picked in the view or the ledger"),
        Toggle("follow", True, "take also what a picked face or curve was split into since it was picked"),
        COMBINE,
    ),
)
def group_picked(geo: Geo, *, name: str, kind: str, elements: Sequence[str], follow: bool, combine: str) -> Geo:
    """Name elements that were picked by hand.

    They are kept by their stable names, so they stay the same elements when others are added or removed before this.
    """
    on = cast(Kind, kind)
    wanted: UInts = np.array([int(name.rstrip("+"), 16) for name in elements], np.uint64)
    names = geo.identity(on)
    members = np.isin(names, wanted)
    there = np.isin(wanted, names)
    if follow and on in FOLLOWED:
        splits = np.array([name.endswith("+") for name in elements], bool)
        origin = descendants(names, wanted[splits])
        more = (origin >= 0) & ~members
        if more.any():
            owners = np.unique(origin[more])
            there[np.flatnonzero(splits)[owners]] = True
            note(
                f"{len(owners):,} of {len(wanted):,} picked {PLURAL[on]} were split since; all their "
                f"{more.sum() + len(owners):,} parts are taken."
            )
        members = members | more
    lost = int((~there).sum())
    if lost:
        warn(
            f"{lost:,} of {len(wanted):,} picked {PLURAL[on]} are not there any more; pick them again if you need them."
        )
    hint = "" if len(wanted) else "Pick some in the view, then take them over here."
    return marked(geo, kind, name, members, combine, hint)
