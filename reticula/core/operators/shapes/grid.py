"""Flat sheets of quads."""

from __future__ import annotations

import numpy as np

from reticula.core.geometry import Geo
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Choice, Vector
from reticula.core.operators.shared.lattice import lattice_places, lattice_quads, lattice_uv

__all__ = ["grid"]


@operator(
    "grid",
    family="shapes",
    inputs=(),
    keywords=("plane", "sheet", "tile"),
    carries="makes the corner attribute uv",
    example="""
        grid(size=[1.2, 0.8], cells=[12, 8])
    """,
    related=("box", "disc", "displace"),
    parameters=(
        Vector("size", [1.0, 1.0], "length of both sides", unit="m", soft=(0, 10), low=0.0),
        Vector("cells", [10, 10], "number of faces along both sides", soft=(1, 100), low=1, whole=True, step=1),
        Choice(
            "facing",
            "up",
            "which way the faces look",
            options={
                "up": "along y, sides along x and z",
                "forward": "along z, sides along x and y",
                "side": "along x, sides along z and y",
            },
        ),
    ),
)
def grid(*, size: list[float], cells: list[int], facing: str) -> Geo:
    """Flat sheet of quads around the origin."""
    columns, rows = cells
    a = np.linspace(-0.5, 0.5, columns + 1) * size[0]
    b = np.linspace(-0.5, 0.5, rows + 1) * size[1]
    quads, uv = lattice_quads(rows + 1, columns + 1), lattice_uv(rows, columns)
    across, along = {"up": ((0, a), (2, -b)), "forward": ((0, a), (1, b)), "side": ((2, -a), (1, b))}[facing]
    positions = lattice_places(np.eye(3)[across[0]], across[1], np.eye(3)[along[0]], along[1])
    return Geo.from_faces(positions, quads).with_attribute("corner", "uv", uv)
