"""Cut by value: faces cut along the lines where a formula crosses certain values."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Floats, Ints
from reticula.core.diagnostics import note, warn
from reticula.core.geometry import Geo, carry, kept
from reticula.core.geometry.edit.subset import subset
from reticula.core.geometry.edit.value_cut import cut_at_levels
from reticula.core.geometry.mesh.edge_chains import edge_chains
from reticula.core.operators.declaration.operator import Output, operator
from reticula.core.operators.declaration.parameters import AttributeName, GroupName, Integer, Number, PerElement

__all__ = ["cut_by_value"]


@operator(
    "cut_by_value",
    family="topology",
    outputs=(Output("geo", "the whole mesh, cut along the lines"), Output("lines", "the lines as curves")),
    keywords=("contour", "isoline", "level", "threshold", "band", "region", "outline", "split", "trace"),
    sections={
        "lines": ("count", "spacing", "snap"),
        "names of groups": ("above_group", "below_group", "line_group", "band_name"),
    },
    carries="Carries all; values of points and corners are interpolated along the lines, groups and labels copied. "
    "Curves and loose points stay on the mesh.",
    example="""
        rock = displace(geodesic_sphere(frequency=20), amount=0.15)
        cut, lines = cut_by_value(rock, value="position.y", count=8, spacing=0.12)
        tubes = sweep(lines, radius=0.008)
        dark = set_attribute(tubes, name="color", value=CORAL)
        join(cut, dark)
    """,
    related=("slice", "group", "region_borders"),
    parameters=(
        PerElement("value", {"formula": "position.y"}, "what is looked at, on each point", on="point"),
        Number("at", 0.0, "the value along which faces are cut", soft=(-1.0, 1.0)),
        Integer("count", 1, "how many values, one above the other", soft=(1, 20), low=1, high=1000),
        Number("spacing", 0.1, "how far several values are apart", soft=(0.0, 1.0), low=1e-12),
        Number(
            "snap",
            0.0,
            "move points onto a line that passes them closer than this share of an edge, so that no slivers are made",
            soft=(0.0, 0.4),
            low=0.0,
            high=0.45,
        ),
        GroupName("above_group", "above", "face group that receives what lies above the highest value", kind="face"),
        GroupName("below_group", "below", "face group that receives what lies below the lowest value", kind="face"),
        GroupName("line_group", "line", "edge group that receives the edges along the lines", kind="edge"),
        AttributeName(
            "band_name",
            "",
            "face attribute that receives how many of the values lie below a face; empty makes none",
            new=True,
            optional=True,
        ),
    ),
)
def cut_by_value(
    geo: Geo,
    *,
    value: Floats,
    at: float,
    count: int,
    spacing: float,
    snap: float,
    above_group: str,
    below_group: str,
    line_group: str,
    band_name: str,
) -> tuple[Geo, Geo]:
    """Cut faces where a formula crosses one or several values, so that regions have clean outlines.

    The formula is worked out on the points and taken as linear along edges. Every face of the result lies on one side
    of each value; faces stay polygons. The lines are edges of the mesh, and curves on the second output, with the value
    that each runs along as ``level``.
    """
    levels = np.asarray(at + spacing * np.arange(count), np.float64)
    made = cut_at_levels(geo, value, levels.tolist(), snap)
    shape = made.geo.topology
    result = made.geo.with_attribute("face", above_group, made.band == count)
    result = result.with_attribute("face", below_group, made.band == 0)
    result = result.with_attribute("edge", line_group, made.level >= 0)
    if band_name:
        result = result.with_attribute("face", band_name, made.band, "integer")
    if not (made.level >= 0).any():
        low, high = (float(value.min()), float(value.max())) if len(value) else (0.0, 0.0)
        warn(f"No face is crossed: the formula goes from {low:.4g} to {high:.4g} on the points.")
    added = shape.face_count - geo.topology.face_count
    note(f"{int((made.level >= 0).sum()):,} edges along the lines, {added:,} more faces.")
    return result, _lines(result, made.level, levels)


def _lines(geo: Geo, level: Ints, levels: Floats) -> Geo:
    """The edges along the lines as curves, one value after the other; faces and what else there is are left behind."""
    shape = geo.topology
    lengths, points, closed, heights = [np.zeros(1, np.int64)], [], [], []
    for n in range(len(levels)):
        edges = shape.edges[level == n]
        start, point, ring, _ = edge_chains(edges, shape.point_count, np.zeros(shape.point_count, bool))
        lengths.append(np.diff(start))
        points.append(point)
        closed.append(ring)
        heights.append(np.full(len(ring), levels[n]))
    topology = shape.with_curves(
        shape.point_count, np.cumsum(np.concatenate(lengths)), np.concatenate(points), np.concatenate(closed)
    )
    made = carry(geo, topology, {"curve": kept(np.full(topology.curve_count, -1))})
    made = made.with_attribute("curve", "level", np.concatenate(heights))
    return subset(made, faces=np.zeros(shape.face_count, bool), loose=False)
