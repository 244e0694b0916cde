"""Triangulate: polygons to triangles."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Flags
from reticula.core.diagnostics import note
from reticula.core.geometry import Geo
from reticula.core.geometry.edit.face_triangles import triangulate_faces
from reticula.core.geometry.measure.areas import face_planarity
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Choice, GroupName, Number, Selection

__all__ = ["triangulate"]


@operator(
    "triangulate",
    family="topology",
    keywords=("triangles", "tessellate", "cut", "ngon", "planar"),
    carries="Carries all. Triangles copy their face, their corners the face's corners; edges across faces "
    "get the default.",
    example="""
        shape = dual(geodesic_sphere(frequency=4))
        triangulate(shape)
    """,
    related=("split_faces", "merge_faces", "simplify"),
    parameters=(
        Selection.each("face", "faces to cut; empty means all"),
        Choice(
            "diagonal",
            "short",
            "which way a face is cut",
            options={
                "short": "the shorter diagonal; ears with the shortest cut first",
                "first": "from the first corner on, where that lies inside",
            },
        ),
        Choice(
            "which",
            "all",
            "faces that need it",
            options={"all": "every face with more than three corners", "bent": "only those that are not flat"},
        ),
        Number(
            "flatness",
            0.0001,
            "how far a corner may lie from its face's plane, as a share of the face's size",
            soft=(0.0, 0.1),
            low=0.0,
            step=0.0001,
            shown_when=("which", "bent"),
        ),
        GroupName(
            "cut_group", "cut_face", "face group that receives the triangles of faces that were cut", kind="face"
        ),
    ),
)
def triangulate(geo: Geo, *, where: Flags, diagonal: str, which: str, flatness: float, cut_group: str) -> Geo:
    """Cut faces into triangles that stay inside them, convex or not.

    Cuts off ears, one after the other (Meisters, "Polygons have ears", 1975). The order of faces is kept: the
    triangles of a face stand where it stood. Points and unmarked faces stay as they are.
    """
    chosen = where & (geo.topology.face_size > 3)
    if which == "bent":
        chosen &= face_planarity(geo) > flatness
    made = triangulate_faces(geo, chosen, shortest=diagonal == "short")
    note(f"Cut {int(chosen.sum()):,} faces.")
    parts = np.where(chosen, geo.topology.face_size - 2, 1)
    return made.with_attribute("face", cut_group, np.repeat(chosen, parts))
