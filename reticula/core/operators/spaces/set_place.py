"""Set place: where a shape stands, its points left as they are."""

from __future__ import annotations

import numpy as np

from reticula.core.diagnostics import note
from reticula.core.geometry import Geo
from reticula.core.geometry.edit.affine import affine_matrix
from reticula.core.geometry.edit.placement import PLACE, place_of
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Choice, Handle, Vector

__all__ = ["set_place"]


@operator(
    "set_place",
    family="spaces",
    keywords=("object", "local", "world", "stand", "frame", "position", "pivot", "transform"),
    carries="Carries all; sets the attribute 'place' of the whole. Positions and normals stay as they are, "
    "in the shape's own space.",
    example="""
        tile = box(size=[0.5, 0.1, 0.5])
        placed = set_place(tile, move=[0.6, 0.2, 0], turn=[0, 0, 25])
        join(tile, placed)
    """,
    related=("apply_place", "transform"),
    parameters=(
        Vector(
            "move",
            [0.0, 0.0, 0.0],
            "where its origin stands",
            unit="m",
            soft=(-5, 5),
            handle=Handle("place", space="world"),
        ),
        Vector(
            "turn",
            [0.0, 0.0, 0.0],
            "angles about x, then y, then z",
            unit="°",
            soft=(-180, 180),
            step=1,
            handle=Handle("turn", ("move",), "world"),
        ),
        Vector(
            "scale",
            [1.0, 1.0, 1.0],
            "factors along x, y and z, applied first",
            soft=(0, 3),
            low=1e-9,
            handle=Handle("scale", ("move",), "world"),
        ),
        Choice(
            "combine",
            "replace",
            "what becomes of the place it had",
            options={
                "replace": "it is forgotten",
                "add": "the new one comes on top of it",
            },
        ),
    ),
)
def set_place(geo: Geo, *, move: list[float], turn: list[float], scale: list[float], combine: str) -> Geo:
    """Say where a shape stands in the world without changing its points.

    Whatever looks at it from another shape's space (nearness, rays, transfer, joining) sees it there. Distances and
    reaches are in metres of the world, also where the place scales; positions and directions in the shape's own space.
    """
    matrix = affine_matrix(move, turn, scale)
    if combine == "add":
        matrix = matrix @ place_of(geo)
    note(f"Its origin stands at {', '.join(f'{part:.4g}' for part in matrix[:3, 3])} m.")
    return geo.with_attribute("whole", PLACE, np.array(matrix[None]), "mat4")
