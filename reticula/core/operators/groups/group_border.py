"""Group border: elements on open borders, or along the edge of a group."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Flags
from reticula.core.geometry import Geo
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Choice, Selection, Toggle
from reticula.core.operators.shared.group_marking import COMBINE, MADE, marked, naming

__all__ = ["group_border"]


@operator(
    "group_border",
    family="groups",
    keywords=("rim", "open", "hole", "boundary", "outline", "crease", "sharp", "non-manifold"),
    carries=MADE,
    example="""
        sheet = remove(grid(cells=[14, 14]), where="length(position) < 0.2")
        edge = group_border(sheet, name="rim")
        tube = struts(edge, where="rim", radius=0.012)
        join(sheet, tube)
    """,
    related=("region_borders", "grow_group", "fill"),
    parameters=(
        *naming("border", ("edge", "point", "face", "corner")),
        Choice(
            "of",
            "open",
            "which border",
            options={
                "open": "edges with one face only",
                "faces": "edges between the faces below and others",
                "non-manifold": "edges with more than two faces",
            },
        ),
        Selection("where", "", "the faces whose border is meant", on="face", shown_when=("of", "faces")),
        Toggle("with_open", True, "count the open edges of these faces as border too", shown_when=("of", "faces")),
        COMBINE,
    ),
)
def group_border(geo: Geo, *, name: str, kind: str, of: str, where: Flags, with_open: bool, combine: str) -> Geo:
    """Name what lies on a border: its edges, their points, or the faces and corners that touch it with an edge."""
    shape = geo.topology
    if of == "open":
        on = shape.border_edges
    elif of == "non-manifold":
        on = shape.edge_face_count > 2
    else:
        inside = np.bincount(shape.corner_edge, where[shape.corner_face], shape.edge_count)
        on = (inside > 0) & (inside < shape.edge_face_count)
        on |= (inside > 0) & shape.border_edges & with_open
    if kind == "edge":
        members = on
    elif kind == "point":
        members = np.zeros(shape.point_count, bool)
        members[shape.edges[on].reshape(-1)] = True
    elif kind == "corner":
        members = on[shape.corner_edge]
    else:
        members = np.zeros(shape.face_count, bool)
        members[shape.corner_face[on[shape.corner_edge]]] = True
    hint = "The mesh is closed." if of == "open" and not on.any() else ""
    return marked(geo, kind, name, members, combine, hint)
