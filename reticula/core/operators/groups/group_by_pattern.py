"""Group by pattern: every nth element."""

from __future__ import annotations

from typing import cast

import numpy as np

from reticula.core.diagnostics import warn
from reticula.core.geometry import Geo, Kind
from reticula.core.geometry.mesh.kinds import PLURAL
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Integer, Toggle
from reticula.core.operators.shared.group_marking import COMBINE, MADE, marked, naming

__all__ = ["group_by_pattern"]


@operator(
    "group_by_pattern",
    family="groups",
    keywords=("every", "nth", "range", "number", "index", "alternate", "checker", "last", "first"),
    carries=MADE,
    example="""
        tile = grid(cells=[12, 12])
        stripes = group_by_pattern(tile, name="stripe", every=3, take=1)
        extrude(stripes, where="stripe", together=False, distance=0.08, inset=0.01)
    """,
    related=("group_at_random", "group", "panels"),
    parameters=(
        *naming("pattern"),
        Integer("first", 0, "number of the first element; below 0 counts from the end", soft=(0, 100)),
        Integer("last", -1, "number of the last element; below 0 counts from the end", soft=(-1, 100)),
        Integer("every", 2, "length of the pattern: 2 is every other element", soft=(1, 20), low=1),
        Integer("take", 1, "how many at the start of each pattern are members", soft=(1, 20), low=1),
        Integer("shift", 0, "where in the pattern to begin", soft=(0, 20)),
        Toggle("from_end", False, "count backwards from the last element"),
        COMBINE,
    ),
)
def group_by_pattern(
    geo: Geo,
    *,
    name: str,
    kind: str,
    first: int,
    last: int,
    every: int,
    take: int,
    shift: int,
    from_end: bool,
    combine: str,
) -> Geo:
    """Name elements by their number: from, to, every nth.

    A number can follow another node's parameter: write that node's name and the parameter's, e.g. ``rings.count / 2``.
    """
    count = geo.topology.count(cast(Kind, kind))
    begin, end = (first + count if first < 0 else first), (last + count if last < 0 else last)
    if count and (begin >= count or end >= count):
        warn(f"There are only {count:,} {PLURAL[kind]}, 0 to {count - 1}; the pattern goes from {first} to {last}.")
    number = np.arange(count)
    along = end - number if from_end else number - begin
    members = (number >= begin) & (number <= end) & ((along - shift) % every < take)
    return marked(geo, kind, name, members, combine)
