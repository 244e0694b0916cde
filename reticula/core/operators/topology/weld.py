"""Weld: near points become one."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Flags
from reticula.core.diagnostics import note
from reticula.core.geometry import Geo
from reticula.core.geometry.edit.weld import cluster_by_distance, weld_points
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Choice, GroupName, Number, Selection

__all__ = ["weld"]


@operator(
    "weld",
    family="topology",
    keywords=("merge", "fuse", "join points", "stitch", "doubles", "clean"),
    carries=(
        "Carries all. A welded point has the mean of its points' numbers and vectors, or the first "
        "one's; its flags, integers "
        "and text are the first one's. Faces and curves that stay keep their values; collapsed ones go, which is said."
    ),
    example="""
        parts = join(box(size=[0.5, 0.5, 0.5]), transform(box(size=[0.5, 0.5, 0.5]), move=[0.5, 0, 0]))
        whole = weld(parts, radius=0.001)
        smooth_subdivide(whole, levels=2)
    """,
    related=("unshare", "repair", "mirror"),
    parameters=(
        Selection.each("point", "points that may be welded; empty means all"),
        Number(
            "radius",
            {"formula": "0.0005 * extent"},
            "points at most this far from the first one become one with it",
            unit="m",
            soft=(0.0, 0.1),
            low=0.0,
            step=0.0001,
        ),
        Choice(
            "values",
            "mean",
            "place and other values of a welded point",
            options={
                "mean": "mean of its points",
                "first": "those of its point with the lowest number",
            },
        ),
        GroupName(
            "welded_group", "welded", "point group that receives the points that others became one with", kind="point"
        ),
    ),
)
def weld(geo: Geo, *, where: Flags, radius: float, values: str, welded_group: str) -> Geo:
    """Make one point of points that lie near each other.

    Points are taken in order: each one that is still free takes all free points within the radius, so a chain of near
    points does not collapse into one. A face that loses corners stays while it has three; one that touches itself is
    cut there.
    """
    shape = geo.topology
    leader = cluster_by_distance(geo.positions, np.flatnonzero(where), radius)
    made = weld_points(geo, leader, average=values == "mean")
    gone = shape.point_count - made.topology.point_count
    if not gone:
        note(f"No two points lie within {radius:g} m, so nothing was welded.")
        return geo.with_attribute("point", welded_group, np.zeros(shape.point_count, bool))
    lost = shape.face_count - made.topology.face_count
    also = f"; {lost:,} faces collapsed and went" if lost > 0 else ""
    note(f"Welded {gone:,} points away{also}.")
    stays = leader == np.arange(shape.point_count)
    took = np.bincount(leader, minlength=shape.point_count) > 1
    return made.with_attribute("point", welded_group, took[stays])
