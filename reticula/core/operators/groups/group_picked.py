"""Group picked: elements chosen by hand."""

from __future__ import annotations

from collections.abc import Sequence
from typing import cast

import numpy as np

from reticula.core.arrays import Ints, UInts
from reticula.core.diagnostics import note, warn
from reticula.core.geometry import Geo, Kind
from reticula.core.geometry.mesh.identity import descendants
from reticula.core.geometry.mesh.kinds import PLURAL
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Toggle
from reticula.core.operators.shared.followed_picks import copies_of_points, parts_of_edges
from reticula.core.operators.shared.group_marking import COMBINE, MADE, marked, naming
from reticula.core.operators.shared.picked import Picked

__all__ = ["group_picked"]

FOLLOWED = ("point", "edge", "face", "curve")
"""Kinds whose elements are split into others of their kind."""


@operator(
    "group_picked",
    family="groups",
    keywords=("hand", "manual", "click", "pick"),
    carries=MADE,
    example="""
        tile = grid(cells=[8, 8])
        picked = group_picked(
            tile,
            name="picked",
            elements=[
                "c5debe1df0afee19",
                "d867e23cf9704420",
                "bf2254f69e1438c0",
                "eb0374cc8daa1b01",
                "f50fdafcc1cffc2b",
            ],
        )
        extrude(picked, where="picked", distance=0.1)
    """,
    related=("group", "edit_values", "grow_group"),
    parameters=(
        *naming("picked"),
        Picked("elements", [], "what was picked in the view or the ledger"),
        Toggle("follow", True, "take also what a picked element was split into since it was picked"),
        COMBINE,
    ),
)
def group_picked(geo: Geo, *, name: str, kind: str, elements: Sequence[str], follow: bool, combine: str) -> Geo:
    """Name elements that were picked by hand.

    They are kept by their stable names, so they stay the same elements when others are added or removed before this.
    A face or curve that is split later is followed into all its parts, a point into its copies in the same place, an
    edge into the edges that lie on it.
    """
    on = cast(Kind, kind)
    wanted: UInts = np.array([int(name.rstrip("+").partition(":")[0], 16) for name in elements], np.uint64)
    names = geo.identity(on)
    members = np.isin(names, wanted)
    there = np.isin(wanted, names)
    if follow and on in FOLLOWED:
        splits = np.array([name.endswith("+") or ":" in name for name in elements], bool)
        origin = _origins(geo, on, [name for name, split in zip(elements, splits, strict=True) if split])
        more = (origin >= 0) & ~members
        if more.any():
            owners = np.unique(origin[more])
            there[np.flatnonzero(splits)[owners]] = True
            note(
                f"{len(owners):,} of {len(wanted):,} picked {PLURAL[on]} were split since; all their "
                f"{np.isin(origin, owners).sum():,} parts are taken."
            )
        members = members | more
    lost = int((~there).sum())
    if lost:
        warn(
            f"{lost:,} of {len(wanted):,} picked {PLURAL[on]} are not there any more; pick them again if you need them."
        )
    hint = "" if len(wanted) else "Pick some in the view, then take them over here."
    return marked(geo, kind, name, members, combine, hint)


def _origins(geo: Geo, on: Kind, elements: Sequence[str]) -> Ints:
    """Of which picked element each one is a part, by its number among them; -1 for none."""
    names = [[int(part, 16) for part in name.rstrip("+").split(":")] for name in elements]
    if on == "edge":
        return parts_of_edges(geo, np.array([name[1:] for name in names], np.uint64).reshape(-1, 2))
    wanted: UInts = np.array([name[0] for name in names], np.uint64)
    return copies_of_points(geo, wanted) if on == "point" else descendants(geo.identity(on), wanted)
