"""Reverse: faces and curves the other way round."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Flags
from reticula.core.diagnostics import warn
from reticula.core.geometry import Geo
from reticula.core.geometry.edit.flip import flipped
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import KindChoice, Selection

__all__ = ["reverse"]


@operator(
    "reverse",
    family="topology",
    keywords=("flip", "turn over", "inside out", "normals", "direction"),
    carries="Carries all; corner values go with their corners, and stored normals of what is turned point "
    "the other way.",
    example="""
        ball = geodesic_sphere(frequency=8)
        inwards = reverse(ball)
        extrude(inwards, together=False, distance=0.08, inset=0.02)
    """,
    related=("orient_faces", "mirror", "repair"),
    parameters=(
        KindChoice.of(("face", "curve"), "face", "what to turn round"),
        Selection("where", "", "which elements; empty means all", on="kind"),
    ),
)
def reverse(geo: Geo, *, kind: str, where: Flags) -> Geo:
    """Turn faces over, so that they look the other way, or run curves from their end to their beginning."""
    if not where.any():
        warn(f"No {kind} is marked, so nothing was turned.")
    if kind == "face":
        return flipped(geo, where)
    return flipped(geo, np.zeros(geo.topology.face_count, bool), where)
