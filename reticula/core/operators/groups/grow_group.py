"""Grow group: larger, smaller, or only its outline."""

from __future__ import annotations

from typing import cast

import numpy as np

from reticula.core.arrays import AnyArray, Flags, ragged_index, starts_from_sizes
from reticula.core.geometry import Geo, Kind
from reticula.core.language.scope import adjacent
from reticula.core.operators.declaration.diagnostics import tell_of_unshared
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Choice, GroupName, Integer, KindChoice, Selection
from reticula.core.operators.shared.group_marking import MADE, marked

__all__ = ["grow_group"]


@operator(
    "grow_group",
    family="groups",
    keywords=("shrink", "expand", "dilate", "erode", "outline", "ring", "neighbours", "contract"),
    carries=MADE,
    example="""
        ball = geodesic_sphere(frequency=16)
        seed = group(ball, name="seed", where="index == 40")
        wide = grow_group(seed, where="seed", steps=6, name="patch")
        extrude(wide, where="patch", distance=0.06)
    """,
    related=("group_border", "convert_group", "group_by_nearness"),
    parameters=(
        KindChoice.of(("face", "point", "edge"), "face", "what the group holds"),
        Selection("where", "", "the group to begin with, or a formula", on="kind"),
        Choice(
            "how",
            "grow",
            "what to do",
            options={
                "grow": "add the neighbours",
                "shrink": "take away what touches others",
                "outline": "keep only what touches others",
                "ring": "only the neighbours, without the group",
            },
        ),
        Integer("steps", 1, "how often", soft=(1, 20), low=0, high=10_000),
        Choice(
            "across",
            "edges",
            "what counts as touching",
            options={
                "edges": "sharing an edge (faces) or being its two ends (points)",
                "points": "sharing a point, or a face (points)",
            },
        ),
        GroupName("name", "grown", "name of the new group"),
    ),
)
def grow_group(geo: Geo, *, kind: str, where: Flags, how: str, steps: int, across: str, name: str) -> Geo:
    """Make a group larger or smaller by its neighbours, or take its outline."""
    tell_of_unshared(geo, "growing")
    start, index = _touching(geo, kind, across)
    members = np.array(where)
    begin = members.copy()
    for _ in range(steps):
        members = (
            members & ~_touched(start, index, ~members)
            if how in ("shrink", "outline")
            else members | _touched(start, index, members)
        )
    if how == "outline":
        members = begin & ~members
    elif how == "ring":
        members &= ~begin
    return marked(geo, kind, name, members)


def _touched(start: AnyArray, index: AnyArray, members: Flags) -> Flags:
    """Which elements have a neighbour among the members."""
    total = np.concatenate([[0], np.cumsum(members[index])])
    return total[start[1:]] > total[start[:-1]]


def _touching(geo: Geo, kind: str, across: str) -> tuple[AnyArray, AnyArray]:
    if kind != "edge" and across == "edges":
        return adjacent(geo, cast(Kind, kind), "neighbours")
    shape = geo.topology
    to_middle, from_middle = {
        "face": ((shape.face_start, shape.corner_point), shape.point_corners),
        "point": (adjacent(geo, "point", "faces"), (shape.face_start, shape.corner_point)),
        "edge": (adjacent(geo, "edge", "points"), shape.point_edges),
    }[kind]
    flat, start = ragged_index(from_middle[0], to_middle[1])
    items = shape.corner_face[from_middle[1]] if kind == "face" else from_middle[1]
    near_start, near = start[to_middle[0]], items[flat]
    if kind != "point" or not shape.curve_count:
        return near_start, near
    along_start, along = adjacent(geo, "point", "neighbours")
    owner = np.concatenate(
        [np.repeat(np.arange(shape.point_count), np.diff(rows)) for rows in (near_start, along_start)]
    )
    order = np.argsort(owner, kind="stable")
    return starts_from_sizes(np.bincount(owner, minlength=shape.point_count)), np.concatenate([near, along])[order]
