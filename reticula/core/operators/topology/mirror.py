"""Mirror: the other half of a symmetric shape."""

from __future__ import annotations

import numpy as np

from reticula.core.diagnostics import note
from reticula.core.errors import ParameterError
from reticula.core.geometry import Geo
from reticula.core.geometry.edit.affine import apply_affine
from reticula.core.geometry.edit.weld import weld_points
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import GroupName, Handle, Number, Toggle, Vector
from reticula.core.reports.concatenation import concatenate_and_tell

__all__ = ["mirror"]


@operator(
    "mirror",
    family="topology",
    keywords=("symmetry", "reflect", "half", "copy", "flip"),
    carries=(
        "Carries all onto the copy; stored normals, velocities and instances are mirrored with it. "
        "Welded points keep the original's values."
    ),
    example="""
        half = transform(geodesic_sphere(radius=0.3), move=[0.35, 0, 0], scale=[1, 0.6, 1.6])
        mirror(half, direction=[1, 0, 0])
    """,
    related=("transform", "weld", "reverse"),
    parameters=(
        Vector(
            "direction", [1.0, 0.0, 0.0], "normal of the mirror", soft=(-1, 1), handle=Handle("plane", ("through",))
        ),
        Vector("through", [0.0, 0.0, 0.0], "a place on the mirror", unit="m", soft=(-2, 2), handle=Handle("place")),
        Toggle("keep_original", True, "off: only the mirrored copy is left"),
        Number(
            "weld",
            {"formula": "0.00005 * extent"},
            "points at most this far from the mirror are joined with their copies; 0 joins those on it",
            unit="m",
            soft=(0.0, 0.01),
            low=0.0,
            step=0.0001,
        ),
        GroupName("copy_group", "mirrored", "face group that receives the copy", kind="face"),
    ),
)
def mirror(
    geo: Geo, *, direction: list[float], through: list[float], keep_original: bool, weld: float, copy_group: str
) -> Geo:
    """Add a mirrored copy, its faces turned over so that they look outwards, and weld it along the mirror.

    Points near the mirror are laid onto it before they are welded, so that the seam is closed and flat. What lies
    beyond the mirror is not cut off.
    """
    normal = np.array(direction)
    if not normal.any():
        raise ParameterError("direction", "is 0; give the mirror's normal, e.g. 1, 0, 0")
    normal /= np.linalg.norm(normal)
    away = (geo.positions - np.array(through)) @ normal
    near = np.abs(away) <= weld
    if keep_original and near.any():
        positions = geo.positions - np.where(near, away, 0.0)[:, None] * normal
        geo, away = geo.with_positions(positions), np.where(near, 0.0, away)
    reflection = np.eye(4)
    reflection[:3, :3] -= 2.0 * np.outer(normal, normal)
    reflection[:3, 3] = 2.0 * (np.array(through) @ normal) * normal
    copy = apply_affine(geo, reflection).with_positions(geo.positions - 2.0 * away[:, None] * normal)
    copied = np.zeros(geo.topology.face_count, bool)
    if not keep_original:
        return copy.with_attribute("face", copy_group, ~copied)
    both = concatenate_and_tell([geo, copy])
    count = geo.topology.point_count
    leader = np.arange(2 * count, dtype=np.int32)
    leader[count:][near] = np.flatnonzero(near)
    made = weld_points(
        both.with_attribute("face", copy_group, np.concatenate([copied, ~copied])), leader, average=False
    )
    note(f"{int(near.sum()):,} points lie on the mirror and were welded.")
    return made
