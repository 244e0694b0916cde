"""Move, turn and scale."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Flags
from reticula.core.diagnostics import note
from reticula.core.errors import ParameterError
from reticula.core.geometry import Geo
from reticula.core.geometry.edit.affine import affine_matrix, apply_affine
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Handle, Selection, Vector

__all__ = ["transform"]


@operator(
    "transform",
    family="shape",
    keywords=("move", "translate", "rotate", "turn", "scale", "size", "place"),
    carries=(
        "Carries all. Stored normals turn with the surface, rotations and velocities with the points; "
        "a mirrored mesh has its faces turned over so that they still face outwards."
    ),
    example="""
        body = box(size=[0.5, 0.5, 0.5])
        turned = transform(body, turn=[0, 45, 20], move=[0.7, 0.1, 0], scale=[1, 1.5, 1])
        join(body, turned)
    """,
    related=("set_place", "mirror", "pull_apart"),
    parameters=(
        Selection.each("point", "points to move; empty means all"),
        Vector("move", [0.0, 0.0, 0.0], "added last", unit="m", soft=(-2, 2), handle=Handle("place")),
        Vector(
            "turn",
            [0.0, 0.0, 0.0],
            "angles about x, then y, then z",
            unit="°",
            soft=(-180, 180),
            step=1,
            handle=Handle("turn", ("around", "move")),
        ),
        Vector(
            "scale",
            [1.0, 1.0, 1.0],
            "factors along x, y and z, applied first",
            soft=(0, 3),
            handle=Handle("scale", ("around", "move")),
        ),
        Vector(
            "around",
            [0.0, 0.0, 0.0],
            "place that stays while turning and scaling",
            unit="m",
            soft=(-2, 2),
            handle=Handle("place"),
        ),
    ),
)
def transform(
    geo: Geo, *, where: Flags, move: list[float], turn: list[float], scale: list[float], around: list[float]
) -> Geo:
    """Scale, turn and move points, in this order."""
    if 0.0 in scale:
        raise ParameterError("scale", "a factor of 0 would flatten the shape and lose its normals; use e.g. 0.001")
    matrix = affine_matrix(move, turn, scale, around)
    if np.linalg.det(matrix) < 0 and where.all() and geo.topology.face_count:
        note("The shape is mirrored; its faces were turned over so that they face outwards.")
    return apply_affine(geo, matrix, where)
