"""Group picked: elements chosen by hand."""

from __future__ import annotations

from collections.abc import Sequence
from typing import cast

import numpy as np

from reticula.core.arrays import UInts
from reticula.core.geometry import Geo, Kind
from reticula.core.geometry.kinds import PLURAL
from reticula.core.notes import warn
from reticula.core.operators.declare import operator
from reticula.core.operators.groups.marking import COMBINE, MADE, marked, naming
from reticula.core.operators.parameters import Picked

__all__ = ["group_picked"]


@operator(
    "group_picked",
    family="groups",
    keywords=("hand", "manual", "click", "pick"),
    carries=MADE,
    parameters=(*naming("picked"), Picked("elements", [], "what was picked in the view or the ledger"), COMBINE),
)
def group_picked(geo: Geo, *, name: str, kind: str, elements: Sequence[str], combine: str) -> Geo:
    """Name elements that were picked by hand.

    They are kept by their stable names, so they stay the same elements when others are added or removed before this.
    """
    on = cast(Kind, kind)
    wanted: UInts = np.array([int(name, 16) for name in elements], np.uint64)
    members = np.isin(geo.identity(on), wanted)
    lost = len(wanted) - len(np.unique(geo.identity(on)[members]))
    if lost:
        warn(
            f"{lost:,} of {len(wanted):,} picked {PLURAL[kind]} are not there any more; pick them again if you need them."
        )
    hint = "" if len(wanted) else "Pick some in the view, then take them over here."
    return marked(geo, kind, name, members, combine, hint)
