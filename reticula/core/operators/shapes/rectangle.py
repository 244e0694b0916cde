"""Rectangles as curves."""

from __future__ import annotations

import numpy as np

from reticula.core.geometry import Geo
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Vector
from reticula.core.operators.shared.plane_curves import FACING, curves_of, place_in_plane

__all__ = ["rectangle"]


@operator(
    "rectangle",
    family="shapes",
    inputs=(),
    keywords=("square", "frame", "outline", "curve"),
    carries="makes no attributes",
    example="""
        frame = rectangle(size=[1, 0.6])
        wider = offset_curve(frame, distance=0.1, corners="round")
        plate = fill(wider, what="curve")
        extrude(plate, distance=0.06, keep_base=True)
    """,
    related=("grid", "regular_polygon", "fill"),
    parameters=(Vector("size", [1.0, 1.0], "length of both sides", unit="m", soft=(0, 10), low=0.0), FACING),
)
def rectangle(*, size: list[float], facing: str) -> Geo:
    """Closed curve of four points around the origin."""
    corners = np.array([[-0.5, -0.5], [0.5, -0.5], [0.5, 0.5], [-0.5, 0.5]]) * size
    return curves_of(place_in_plane(corners, facing), [4], True)
