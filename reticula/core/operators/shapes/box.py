"""Boxes."""

from __future__ import annotations

import numpy as np

from reticula.core.geometry import Geo
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Handle, Vector
from reticula.core.operators.shared.lattice import lattice_quads, lattice_uv

__all__ = ["box"]

SIDES = ((0, 1, 2), (0, 2, 1), (1, 2, 0), (1, 0, 2), (2, 0, 1), (2, 1, 0))
"""Per side: the axis it looks along, and the axes of its columns and rows; every second side looks backwards."""


@operator(
    "box",
    family="shapes",
    inputs=(),
    keywords=("cube", "cuboid", "block"),
    carries="makes the corner attribute uv, 0..1 on each side",
    example="""
        box(size=[1, 0.4, 0.6], cells=[4, 2, 3])
    """,
    related=("grid", "extrude", "bevel"),
    parameters=(
        Vector(
            "size", [1.0, 1.0, 1.0], "length along x, y and z", unit="m", soft=(0, 10), low=0.0, handle=Handle("size")
        ),
        Vector("cells", [1, 1, 1], "number of faces along x, y and z", soft=(1, 50), low=1, whole=True, step=1),
    ),
)
def box(*, size: list[float], cells: list[int]) -> Geo:
    """Box around the origin, all sides joined."""
    places, quads, uvs = [], [], []
    count = 0
    for number, (axis, across, up) in enumerate(SIDES):
        columns, rows = cells[across], cells[up]
        r, c = np.meshgrid(np.arange(rows + 1), np.arange(columns + 1), indexing="ij")
        place = np.zeros((r.size, 3), np.int64)
        place[:, across], place[:, up] = c.reshape(-1), r.reshape(-1)
        place[:, axis] = cells[axis] if number % 2 == 0 else 0
        places.append(place)
        quads.append(lattice_quads(rows + 1, columns + 1) + count)
        uvs.append(lattice_uv(rows, columns))
        count += len(place)
    unique, index = np.unique(np.concatenate(places), axis=0, return_inverse=True)
    positions = (unique / np.array(cells) - 0.5) * np.array(size)
    faces = index.reshape(-1)[np.concatenate(quads)]
    return Geo.from_faces(positions, faces).with_attribute("corner", "uv", np.concatenate(uvs))
