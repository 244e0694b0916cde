"""Straight curves."""

from __future__ import annotations

import numpy as np

from reticula.core.geometry import Geo
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Handle, Integer, Vector
from reticula.core.operators.shared.plane_curves import curves_of

__all__ = ["line"]


@operator(
    "line",
    family="shapes",
    inputs=(),
    keywords=("segment", "straight", "ray", "curve", "row of points"),
    carries="makes no attributes",
    example="""
        stem = line(end=[0, 1, 0], segments=12)
        bent = displace(stem, value="sin(position.y * 4)", amount=0.15, along="direction", direction=[1, 0, 0])
        sweep(bent, radius=0.05, taper=[[0, 1], [1, 0.2]])
    """,
    related=("curve_through", "resample", "sweep"),
    parameters=(
        Vector("begin", [0.0, 0.0, 0.0], "first point", unit="m", soft=(-2, 2), handle=Handle("place")),
        Vector("end", [0.0, 1.0, 0.0], "last point", unit="m", soft=(-2, 2), handle=Handle("place")),
        Integer("segments", 1, "parts along it", soft=(1, 50), low=1, high=10_000_000),
    ),
)
def line(*, begin: list[float], end: list[float], segments: int) -> Geo:
    """Open curve from one place to another."""
    share = np.linspace(0.0, 1.0, segments + 1)[:, None]
    return curves_of((1.0 - share) * np.array(begin) + share * np.array(end), [segments + 1], False)
