"""Remove elements."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Flags
from reticula.core.diagnostics import note, warn
from reticula.core.geometry import Geo
from reticula.core.geometry.edit.subset import any_of_row, subset
from reticula.core.geometry.mesh.kinds import PLURAL
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Choice, KindChoice, Selection

__all__ = ["remove"]


@operator(
    "remove",
    family="topology",
    keywords=("delete", "erase", "drop", "cull", "cut away"),
    brings={"open borders": None, "pinched points": None, "loose points": ("leftovers", "keep")},
    carries="Carries all; the elements that stay keep their values, order and identity.",
    example="""
        ball = geodesic_sphere(frequency=12)
        remove(ball, where="noise(position * 5) > 0.1")
    """,
    related=("split_by_group", "slice", "merge_faces"),
    parameters=(
        KindChoice.of(("face", "point", "edge", "curve"), "face", "what to remove"),
        Selection(
            "where", "index % 2 == 0", "which elements to remove: a formula or a group; empty removes none", on="kind"
        ),
        Choice(
            "leftovers",
            "remove",
            "points that no face or curve uses any more",
            options={
                "remove": "go too",
                "keep": "stay as loose points",
            },
        ),
    ),
)
def remove(geo: Geo, *, kind: str, where: Flags, leftovers: str) -> Geo:
    """Remove elements, and what cannot exist without them.

    Removing points or edges removes the faces that use them, and removing points the curves through them. Points that
    were loose before stay, unless they are what is removed.
    """
    shape = geo.topology
    if kind == "point":
        lost_points = where
        lost_faces = any_of_row(shape.face_start, where[shape.corner_point])
        lost_curves = any_of_row(shape.curve_start, where[shape.curve_point])
    else:
        lost_points = np.zeros(shape.point_count, bool)
        lost_curves = where if kind == "curve" else np.zeros(shape.curve_count, bool)
        lost_faces = where if kind == "face" else np.zeros(shape.face_count, bool)
        if kind == "edge":
            lost_faces = any_of_row(shape.face_start, where[shape.corner_edge])
    if not where.any():
        warn(f"None of {len(where):,} {PLURAL[kind]} is marked, so nothing was removed.")
        return geo
    if where.all():
        warn(f"All {len(where):,} {PLURAL[kind]} are marked, so none is left.")
    made = subset(geo, ~lost_faces, ~lost_curves, ~lost_points, leftovers=leftovers == "keep")
    note(
        f"Removed {shape.point_count - made.topology.point_count:,} points, "
        f"{shape.face_count - made.topology.face_count:,} faces "
        f"and {shape.curve_count - made.topology.curve_count:,} curves."
    )
    return made
