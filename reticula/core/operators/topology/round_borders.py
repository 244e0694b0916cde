"""Round borders: border loops become circles."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats, following_in_rows
from reticula.core.diagnostics import note, warn
from reticula.core.geometry import Geo
from reticula.core.geometry.planar.boundary_loops import segment_loops
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Choice, GroupName, Number, Selection, Toggle

__all__ = ["round_borders"]


@operator(
    "round_borders",
    family="topology",
    keywords=("circle", "circularize", "hole", "loop", "drill"),
    sections={
        "names of groups": ("round_group",),
    },
    carries="Carries all and adds the point group; only positions change.",
    example="""
        tile = grid(cells=[14, 14])
        port = round_borders(tile, where="max(abs(position.x), abs(position.z)) < 0.25")
        raised = extrude(port, where="length(position) < 0.3", distance=0.1)
        inset(raised, where="top", together=True, distance=0.06)
    """,
    related=("bevel", "offset_curve", "smooth"),
    parameters=(
        Selection(
            "where", "", "faces whose border becomes round; empty takes the open borders of everything", on="face"
        ),
        Choice(
            "size",
            "own",
            "radius of the circles",
            options={"own": "mean distance of the loop's points from its middle", "given": "the radius below"},
        ),
        Number(
            "radius",
            {"formula": "0.1 * extent"},
            "for all circles",
            unit="m",
            soft=(0.0, 1.0),
            low=0.0,
            shown_when=("size", "given"),
        ),
        Toggle("apart", True, "make circles smaller where they would overlap"),
        Toggle("flat", True, "lay the loop into its plane; off: points keep their height above it"),
        Number("amount", 1.0, "share of the way", soft=(0.0, 1.0), low=0.0, high=1.0),
        GroupName("round_group", "round", "point group that receives the points of the circles", kind="point"),
    ),
)
def round_borders(
    geo: Geo, *, where: Flags, size: str, radius: float, apart: bool, flat: bool, amount: float, round_group: str
) -> Geo:
    """Move the points of each border loop onto a circle in its best plane, equally spaced, turned as little as can be.

    The plane is that of least squares through the loop's points (principal axes). Where loops share points, the later
    one decides.
    """
    shape = geo.topology
    corner = _border(geo, where)
    start, item, left = segment_loops(
        shape.corner_point[corner], shape.corner_point[shape.corner_next[corner]], shape.point_count
    )
    point = shape.corner_point[corner][item]
    if left:
        warn(f"{left:,} edges of the border form no closed loop and were left alone.")
    if not len(start) - 1:
        warn("There is no border loop to make round.")
        return geo.with_attribute("point", round_group, np.zeros(shape.point_count, bool))
    target, shrunk = _circles(geo.positions[point], start, radius if size == "given" else None, apart, flat)
    if shrunk:
        note(f"{shrunk:,} circles were made smaller so that they do not overlap.")
    positions = geo.positions.copy()
    positions[point] += amount * (target - positions[point])
    made = np.zeros(shape.point_count, bool)
    made[point] = True
    note(f"{len(start) - 1:,} loops.")
    return geo.with_positions(positions).with_attribute("point", round_group, made)


def _border(geo: Geo, where: Flags) -> AnyArray:
    """Corners of marked faces whose edge no other marked face shares."""
    shape = geo.topology
    members = (
        np.bincount(shape.corner_edge, where[shape.corner_face], minlength=shape.edge_count)
        if shape.corner_count
        else np.zeros(0)
    )
    return np.flatnonzero(where[shape.corner_face] & (members[shape.corner_edge] == 1))


def _circles(place: Floats, start: AnyArray, radius: float | None, apart: bool, flat: bool) -> tuple[Floats, int]:
    """Places on the circles ``(N, 3)`` for loops ``start (L+1,)``, and how many circles had to shrink."""
    sizes = np.diff(start)
    loop = np.repeat(np.arange(len(sizes)), sizes)
    middle = np.add.reduceat(place, start[:-1], axis=0) / sizes[:, None]
    local = place - middle[loop]
    spread = np.add.reduceat(local[:, :, None] * local[:, None, :], start[:-1], axis=0)
    _, axes = np.linalg.eigh(spread)
    normal = axes[:, :, 0]
    ahead = following_in_rows(start)
    area = np.add.reduceat(np.cross(local, local[ahead]), start[:-1], axis=0)
    normal = normal * np.where(np.einsum("ij,ij->i", normal, area) < 0, -1.0, 1.0)[:, None]
    x_axis = axes[:, :, 2]
    y_axis = np.cross(normal, x_axis)
    x, y = np.einsum("ij,ij->i", local, x_axis[loop]), np.einsum("ij,ij->i", local, y_axis[loop])
    height = np.einsum("ij,ij->i", local, normal[loop])
    own = np.add.reduceat(np.hypot(x, y), start[:-1]) / sizes
    wanted: Floats = own if radius is None else np.full(len(sizes), radius)
    final: Floats = wanted
    if apart and len(sizes) > 1:
        from scipy.spatial import cKDTree

        gap = np.asarray(cKDTree(middle).query(middle, k=2)[0])[:, 1]
        final = np.where(gap > 0, np.minimum(wanted, 0.49 * gap), wanted)
    step = 2 * np.pi * (np.arange(len(place)) - start[:-1][loop]) / sizes[loop]
    turn = np.arctan2(y, x) - step
    weight = np.hypot(x, y)
    phase = np.arctan2(
        np.add.reduceat(weight * np.sin(turn), start[:-1]), np.add.reduceat(weight * np.cos(turn), start[:-1])
    )
    angle = step + phase[loop]
    r = final[loop]
    made = middle[loop] + (r * np.cos(angle))[:, None] * x_axis[loop] + (r * np.sin(angle))[:, None] * y_axis[loop]
    if not flat:
        made += height[:, None] * normal[loop]
    return made, int((final < wanted).sum())
