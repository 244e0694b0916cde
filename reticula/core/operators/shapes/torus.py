"""Rings."""

from __future__ import annotations

import numpy as np

from reticula.core.geometry import Geo
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Integer, Number
from reticula.core.operators.shared.lattice import lattice_quads, lattice_uv

__all__ = ["torus"]


@operator(
    "torus",
    family="shapes",
    inputs=(),
    keywords=("ring", "doughnut", "tube"),
    carries="makes the corner attribute uv",
    example="""
        torus(radius=0.45, thickness=0.16)
    """,
    related=("circle", "sweep", "cylinder"),
    parameters=(
        Number("radius", 0.5, "distance of the tube's middle from the origin", unit="m", soft=(0, 5), low=0.0),
        Number("thickness", 0.15, "radius of the tube itself", unit="m", soft=(0, 2), low=0.0),
        Integer("segments", 48, "faces along the tube", soft=(3, 200), low=3, high=8000),
        Integer("sides", 16, "faces around the tube", soft=(3, 100), low=3, high=4000),
    ),
)
def torus(*, radius: float, thickness: float, segments: int, sides: int) -> Geo:
    """Ring of quads around the y axis."""
    turn = (np.arange(segments) * (2 * np.pi / segments))[:, None]
    angle = (np.arange(sides) * (2 * np.pi / sides))[None, :]
    reach = radius + thickness * np.cos(angle)
    y = np.broadcast_to(thickness * np.sin(angle), (segments, sides))
    positions = np.stack([reach * np.sin(turn), y, reach * np.cos(turn)], axis=-1).reshape(-1, 3)
    quads = lattice_quads(segments, sides, wrap_rows=True, wrap_columns=True)[:, [0, 3, 2, 1]]
    uv = lattice_uv(segments, sides).reshape(-1, 4, 2)[:, [0, 3, 2, 1], ::-1].reshape(-1, 2)
    return Geo.from_faces(positions, quads).with_attribute("corner", "uv", uv)
