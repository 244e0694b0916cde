"""Unshare: faces get points of their own."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Flags
from reticula.core.diagnostics import note, warn
from reticula.core.geometry import Geo
from reticula.core.geometry.edit.split_points import split_all, split_along_edges
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Choice, Selection

__all__ = ["unshare"]


@operator(
    "unshare",
    family="topology",
    keywords=("split", "detach", "separate", "unweld", "own points", "facet"),
    brings={"open borders": None, "points in one place": None},
    carries="Carries all; copies of a point have its values, and edges on either side of a cut both have "
    "those of the old edge.",
    example="""
        block = box(cells=[2, 2, 2])
        apart = unshare(block)
        pull_apart(apart, amount=0.3)
    """,
    related=("weld", "pull_apart", "region_borders"),
    parameters=(
        Selection.each("face", "faces to part; empty means all"),
        Choice(
            "apart_from",
            "each other",
            "what the faces are parted from",
            options={
                "each other": "every face gets its own points",
                "the rest": "the marked faces stay joined among themselves",
            },
        ),
    ),
)
def unshare(geo: Geo, *, where: Flags, apart_from: str) -> Geo:
    """Give faces points of their own, one per corner, so that nothing is shared with their neighbours.

    Nothing moves. The faces' order and the old points stay; copies of points follow at the end.
    """
    shape = geo.topology
    if not where.any():
        warn("No face is marked, so nothing was parted.")
    if len(where) and where.all() and apart_from == "each other":
        return _told(split_all(geo), shape.point_count)
    start, corner = shape.edge_corners
    marked = where[shape.corner_face[corner]]
    members = np.add.reduceat(marked, start[:-1], dtype=np.int64) if shape.edge_count else np.zeros(0, np.int64)
    total = shape.edge_face_count
    cut = (members > 0) & (total > 1) & ((members < total) | (apart_from == "each other"))
    return _told(split_along_edges(geo, _and_at_points(geo, where, cut)), shape.point_count)


def _told(made: Geo, before: int) -> Geo:
    note(f"Added {made.topology.point_count - before:,} points.")
    return made


def _and_at_points(geo: Geo, where: Flags, cut: Flags) -> Flags:
    """Borders of marked faces count as cut too, so that faces that meet in a point only are parted there."""
    shape = geo.topology
    near = np.zeros(shape.edge_count, bool)
    near[shape.corner_edge[where[shape.corner_face]]] = True
    return cut | (near & shape.border_edges)
