"""Split by group: what is in a group, and what is not."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Flags
from reticula.core.diagnostics import note, warn
from reticula.core.geometry import Geo
from reticula.core.geometry.edit.subset import any_of_row, subset
from reticula.core.geometry.mesh.kinds import PLURAL
from reticula.core.operators.declaration.operator import Output, operator
from reticula.core.operators.declaration.parameters import KindChoice, Selection

__all__ = ["split_by_group"]


@operator(
    "split_by_group",
    family="combine",
    outputs=(Output("inside", "what is marked"), Output("outside", "everything else")),
    keywords=("separate", "extract", "keep", "two", "divide", "filter"),
    brings={"open borders": None, "pinched points": None},
    carries="Carries all; elements keep their values, order and identity on the side they go to.",
    example="""
        ball = geodesic_sphere(frequency=10)
        halves, rest = split_by_group(ball, where="noise(position * 4) > 0")
        lifted = transform(halves, move=[1.1, 0, 0])
        join(lifted, rest)
    """,
    related=("remove", "slice", "switch"),
    parameters=(
        KindChoice.of(("face", "point", "curve"), "face", "what is told apart"),
        Selection("where", "index % 2 == 0", "which elements go inside: a group or a formula", on="kind"),
    ),
)
def split_by_group(geo: Geo, *, kind: str, where: Flags) -> tuple[Geo, Geo]:
    """Give two geometries: what is in a group, and what is not.

    Told apart by points, a face or curve goes inside if all its points do. Curves go outside when faces are told
    apart, and faces when curves are. Loose points go inside when told apart themselves, else outside.
    """
    shape = geo.topology
    nothing = [np.zeros(shape.face_count, bool), np.zeros(shape.curve_count, bool)]
    faces, curves, points = nothing[0], nothing[1], np.zeros(shape.point_count, bool)
    if kind == "face":
        faces = where
    elif kind == "curve":
        curves = where
    else:
        faces = ~any_of_row(shape.face_start, ~where[shape.corner_point])
        curves = ~any_of_row(shape.curve_start, ~where[shape.curve_point])
        points = where
    held = int(where.sum())
    if held in (0, len(where)):
        warn(f"{'All' if held else 'None'} of {len(where):,} {PLURAL[kind]} are inside.")
    note(f"{held:,} {PLURAL[kind]} inside, {len(where) - held:,} outside.")
    inside = subset(geo, faces, curves, shape.used_points | points)
    return inside, subset(geo, ~faces, ~curves, shape.used_points | ~points)
