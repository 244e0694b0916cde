"""Groups: named sets of elements."""

from __future__ import annotations

from typing import cast

from reticula.core.arrays import Flags
from reticula.core.geometry import Geo, Kind
from reticula.core.geometry.kinds import PLURAL
from reticula.core.notes import note, warn
from reticula.core.operators.declare import operator
from reticula.core.operators.parameters import Choice, GroupName, KindChoice, Where

__all__ = ["group"]


@operator(
    "group",
    family="groups",
    keywords=("mark", "select", "choose", "tag", "filter"),
    carries="Carries all; adds or replaces the group.",
    parameters=(
        GroupName("name", "marked", "name of the group"),
        KindChoice.of(("face", "point", "edge", "corner", "curve"), "face", "what the group holds"),
        Where("where", "", "which elements: a formula or a group; empty means all", on="kind"),
        Choice("combine", "replace", "what to do if the group exists already", options={
            "replace": "the formula alone decides", "add": "old members stay", "keep both": "only old members that fit",
            "take away": "old members that fit leave",
        }),
    ),
)  # fmt: skip
def group(geo: Geo, *, name: str, kind: str, where: Flags, combine: str) -> Geo:
    """Name the elements for which a formula holds."""
    on = cast(Kind, kind)
    members = where
    if combine != "replace":
        if not geo.has(on, name):
            warn(f"There was no {kind} group '{name}' to combine with.")
        else:
            old = geo.group(on, name)
            members = {"add": old | where, "keep both": old & where, "take away": old & ~where}[combine]
    held, count = int(members.sum()), len(members)
    if count and not held:
        warn(f"The group '{name}' is empty: none of {count:,} {PLURAL[kind]} fits.")
    else:
        note(f"'{name}' holds {held:,} of {count:,} {PLURAL[kind]} ({held / max(count, 1):.1%}).")
    return geo.with_attribute(on, name, members, "flag")
