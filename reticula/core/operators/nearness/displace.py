"""Displace: points moved by a value."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Flags, Floats
from reticula.core.diagnostics import note
from reticula.core.errors import ParameterError
from reticula.core.geometry import Geo
from reticula.core.language import Values
from reticula.core.language.scope import Scope
from reticula.core.operators.declaration.operator import Input, operator
from reticula.core.operators.declaration.parameters import Choice, Handle, Number, PerElement, Selection, Space
from reticula.core.reports.attribute_writing import range_of
from reticula.core.rows import unit
from reticula.core.words import with_article

__all__ = ["displace"]


@operator(
    "displace",
    family="nearness",
    inputs=(Input(), Input("source", "geometry that the formulas may ask", optional=True)),
    keywords=("bump", "height", "relief", "offset", "noise", "map", "deform"),
    carries="Carries all. Stored normals are left as they are.",
    example="""
        ball = geodesic_sphere(frequency=40)
        displace(ball, value="noise(position * 5)", amount=0.12)
    """,
    related=("push", "noise_values", "smooth", "proximity_deform"),
    parameters=(
        Selection.each("point", "points that move; empty means all"),
        PerElement(
            "value",
            {"formula": "noise(position * 7 / max(extent, 1e-9), 3)"},
            "number, along the way below; or a vec3, as it is",
            on="point",
            type="any",
        ),
        Number("amount", {"formula": "0.03 * extent"}, "how far a value of 1 moves", unit="m", soft=(-1, 1)),
        Number("middle", 0.0, "value that does not move", soft=(-1, 1)),
        Choice(
            "along",
            "normals",
            "which way a number moves points",
            options={"normals": "the points' normals", "direction": "the direction below"},
        ),
        PerElement(
            "direction",
            [0.0, 1.0, 0.0],
            "which way; the length does not matter",
            on="point",
            type="vec3",
            soft=(-1, 1),
            shown_when=("along", "direction"),
            handle=Handle("direction"),
        ),
        Space.choice(),
    ),
)
def displace(
    geo: Geo,
    source: Geo | None,
    *,
    where: Flags,
    value: Values,
    amount: float,
    middle: float,
    along: str,
    direction: Floats,
    space: str,
) -> Geo:
    """Move points by any value: a number along normals or a direction, or a vector."""
    if value.type not in ("number", "integer", "vec3"):
        raise ParameterError("value", f"this gives {with_article(value.type)}; a number or a vec3 can move points")
    way = Scope(geo, "point").values("point", "normal") if along == "normals" else direction
    values = value.array - middle
    moves = amount * (values if values.ndim == 2 else values[:, None] * unit(way))
    note(f"Points move by {range_of(np.linalg.norm(moves[where], axis=1), 'm')}.")
    return geo.with_positions(geo.positions + np.where(where[:, None], moves, 0.0))
