"""Region borders: edges where two labels meet."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray
from reticula.core.diagnostics import note, warn
from reticula.core.errors import ParameterError
from reticula.core.geometry import Geo
from reticula.core.geometry.edit.split_points import split_along_edges
from reticula.core.geometry.measure.areas import face_normals
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import AttributeName, GroupName, Toggle

__all__ = ["region_borders"]


@operator(
    "region_borders",
    family="topology",
    keywords=("seams", "boundary", "labels", "islands", "outline", "split"),
    brings={"points in one place": ("split", True), "open borders": ("split", True)},
    carries="Carries all and adds the edge group; copies of points have the values of their source.",
    example="""
        tile = grid(cells=[30, 30])
        bands = set_attribute(tile, name="band", kind="face", value="integer(8 * length(position))")
        borders = region_borders(bands, label="band", border_group="seam")
        tubes = struts(borders, where="seam", radius=0.008)
        join(tile, tubes)
    """,
    related=("group_border", "merge_faces", "edges_to_curves"),
    parameters=(
        AttributeName(
            "label",
            "",
            "face attribute whose change marks a border: text, integer, number or group; empty tells "
            "faces apart by the way they look",
            optional=True,
        ),
        Toggle("open_borders", False, "count open borders too"),
        Toggle("split", False, "part the faces along the borders"),
        GroupName("border_group", "region_border", "edge group that receives the borders", kind="edge"),
    ),
)
def region_borders(geo: Geo, *, label: str, open_borders: bool, split: bool, border_group: str) -> Geo:
    """Find the edges between faces that hold different labels, and part the faces there on demand.

    Without a label, faces are told apart by the direction they look in most: along +x, -x, +y, -y, +z or -z.
    """
    shape = geo.topology
    code: AnyArray
    if label:
        found = geo.attributes["face"].get(label)
        if found is None or found.start is not None or found.values.ndim > 1:
            there = ", ".join(
                name for name, a in geo.attributes["face"].items() if a.values.ndim == 1 and a.start is None
            )
            raise ParameterError(
                "label", f"takes a face attribute with one value per face; there are {there or 'none'}"
            )
        _, code = np.unique(found.values, return_inverse=True)
    else:
        normals = face_normals(geo)
        axis = np.abs(normals).argmax(axis=1)
        code = 2 * axis + (np.take_along_axis(normals, axis[:, None], 1)[:, 0] < 0)
    values = code.reshape(-1)[shape.corner_face[shape.edge_corners[1]]]
    start = shape.edge_corners[0][:-1]
    border = np.zeros(0, bool)
    if shape.edge_count:
        border = np.minimum.reduceat(values, start) != np.maximum.reduceat(values, start)
    made = geo.with_attribute("edge", border_group, border | (shape.border_edges if open_borders else False))
    if shape.edge_count and not border.any():
        warn("All faces have the same label, so there are no borders between regions.")
    note(f"{int(border.sum()):,} of {shape.edge_count:,} edges lie between regions.")
    return split_along_edges(made, border) if split else made
