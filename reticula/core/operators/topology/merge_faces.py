"""Merge faces: what lies side by side becomes one polygon."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Flags
from reticula.core.diagnostics import note, warn
from reticula.core.geometry import Geo
from reticula.core.geometry.edit.merge_faces import (
    equal_across,
    flat_across,
    merge_across,
    without_straight_points,
)
from reticula.core.geometry.measure.areas import face_normals
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import AttributeName, Choice, Number, Selection, Toggle
from reticula.core.operators.shared.group_marking import labels_of

__all__ = ["merge_faces"]

BESIDE = "_beside"


@operator(
    "merge_faces",
    family="topology",
    keywords=("dissolve", "join", "coplanar", "polygon", "clean", "combine", "flat"),
    carries="Carries all: a merged face has the values of its first one, and its corners keep theirs.",
    example="""
        tile = triangulate(grid(cells=[6, 6]))
        named = set_attribute(
            tile,
            name="part",
            kind="face",
            value="integer(floor(position.x * 3 + 2) + 5 * floor(position.z * 3 + 2))",
        )
        merged = merge_faces(named, by="label", label="part")
        inset(merged, distance=0.015)
    """,
    related=("region_borders", "triangulate", "weld"),
    parameters=(
        Selection.each("face", "faces that may be merged; empty means all"),
        Choice(
            "by",
            "plane",
            "which neighbours become one",
            options={
                "plane": "faces that lie in one plane",
                "label": "faces with the same value of an attribute",
                "marked": "all marked faces that hang together",
            },
        ),
        Number(
            "angle",
            0.1,
            "by how much two faces may differ and still lie in one plane",
            unit="°",
            soft=(0.0, 10.0),
            low=0.0,
            high=180.0,
            shown_when=("by", "plane"),
        ),
        AttributeName(
            "label",
            "",
            "a whole number, text or flag of the faces",
            shown_when=("by", "label"),
            optional=True,
        ),
        Toggle(
            "equal_values",
            True,
            "only where all values of faces and corners are the same on both sides",
            shown_when=("by", "plane"),
        ),
        Toggle("drop_straight", True, "take out points that then only stand in the middle of a straight edge"),
    ),
)
def merge_faces(
    geo: Geo, *, where: Flags, by: str, angle: float, label: str, equal_values: bool, drop_straight: bool
) -> Geo:
    """Put faces that share an edge together: those in one plane, those with one label, or all marked ones.

    Faces that would have a hole, or touch themselves in a point, stay as they are, which is said. A merged face stands
    where the first of them stood.
    """
    shape = geo.topology
    if not where.any():
        warn("No face is marked, so nothing was merged.")
    able = np.zeros(shape.edge_count, bool)
    corner = np.flatnonzero(shape.corner_across >= 0)
    face, other = shape.corner_face[corner], shape.corner_face[shape.corner_across[corner]]
    joined = where[face] & where[other] & (face != other)
    if by == "label":
        values, _ = labels_of(geo, "face", label, "label")
        joined &= values[face] == values[other]
    able[shape.corner_edge[corner[joined]]] = True
    if by == "plane":
        able &= flat_across(geo, face_normals(geo), np.radians(angle))
        if equal_values:
            able &= equal_across(geo)
    beside = np.zeros(shape.point_count, bool)
    beside[shape.edges[able].reshape(-1)] = True
    made, apart = merge_across(geo.with_attribute("point", BESIDE, beside), able)
    if drop_straight:
        made = without_straight_points(made, made.group("point", BESIDE))
    made = made.without_attribute("point", BESIDE)
    if apart:
        warn(f"{apart:,} groups of faces surround a hole or touch themselves, so they were not merged.")
    note(f"{shape.face_count:,} faces became {made.topology.face_count:,}.")
    return made
