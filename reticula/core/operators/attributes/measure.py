"""Measure: areas, lengths, angles, curvature, thickness, pieces and distances as attributes."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass

import numpy as np

from reticula.core.arrays import AnyArray, Flags
from reticula.core.diagnostics import note, warn
from reticula.core.geometry import Geo, Kind, measure
from reticula.core.geometry.measure import components as pieces
from reticula.core.geometry.measure import curvature
from reticula.core.geometry.measure.curve_bends import curve_bends, curve_turns
from reticula.core.geometry.measure.geodesics import geodesic_distances
from reticula.core.operators.declaration.diagnostics import tell_of_unshared
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import AttributeName, Choice, Number, Selection
from reticula.core.reports.attribute_writing import range_of, write_attribute
from reticula.core.spatial.thickness import thickness

__all__ = ["MEASURES"]


@dataclass(frozen=True)
class Measure:
    """What is measured, on which kinds, and in which unit."""

    help: str
    unit: str
    on: Mapping[Kind, Callable[[Geo], AnyArray]]


MEASURES: Mapping[str, Measure] = {
    "area": Measure("area of faces", "m²", {"face": measure.face_areas}),
    "perimeter": Measure("length of the outline of faces", "m", {"face": measure.face_perimeters}),
    "length": Measure(
        "length of edges and curves", "m", {"edge": measure.edge_lengths, "curve": measure.curve_lengths}
    ),
    "angle": Measure(
        "angle by which the surface bends at edges: 0 flat, above 0 a ridge", "°", {"edge": curvature.edge_angles}
    ),
    "face_count": Measure(
        "number of faces at edges", "", {"edge": lambda geo: geo.topology.edge_face_count.astype(np.int64)}
    ),
    "sides": Measure("number of corners of faces", "", {"face": lambda geo: geo.topology.face_size.astype(np.int64)}),
    "valence": Measure(
        "number of edges and curve segments at points",
        "",
        {"point": lambda geo: np.diff(geo.topology.point_neighbours[0]).astype(np.int64)},
    ),
    "mean_curvature": Measure(
        "mean curvature at points, above 0 where the surface bulges", "1/m", {"point": curvature.mean_curvatures}
    ),
    "gauss_curvature": Measure("Gaussian curvature at points", "1/m²", {"point": curvature.gauss_curvatures}),
    "turn": Measure("angle by which curves turn at points", "°", {"point": curve_turns}),
    "bend": Measure("curvature of curves at points, 1 by the radius", "1/m", {"point": curve_bends}),
    "planarity": Measure("how bent faces are, 0 is flat", "", {"face": measure.face_planarity}),
    "thickness": Measure(
        "way through the material at points, -1 where there is no other side", "m", {"point": thickness}
    ),
    "piece": Measure(
        "number of the connected part, of points and faces",
        "",
        {"point": pieces.point_components, "face": pieces.face_components},
    ),
    "piece_size": Measure(
        "number of points or faces in the connected part",
        "",
        {"point": pieces.point_component_sizes, "face": pieces.face_component_sizes},
    ),
    "walk": Measure("distance along the surface from some points, -1 where no way leads", "m", {}),
}


@operator(
    "measure",
    family="attributes",
    keywords=(
        "area",
        "length",
        "perimeter",
        "angle",
        "curvature",
        "thickness",
        "valence",
        "planarity",
        "piece",
        "distance",
        "geodesic",
    ),
    carries="Carries all; adds or replaces the attribute.",
    example="""
        shape = smooth_subdivide(extrude(box(), where="normal.y > 0.5", inset=0.3, distance=0.5), levels=3)
        measured = measure(shape, what="mean_curvature", name="bend")
        remap(measured, value="bend", name="color", through="gradient")
    """,
    related=("statistics", "remap", "set_attribute"),
    parameters=(
        Choice("what", "area", "what to measure", options={name: entry.help for name, entry in MEASURES.items()}),
        AttributeName("name", "", "attribute to make; empty means as the measure is called", new=True, optional=True),
        Selection("begin", "index == 0", "the points where the distance is 0", on="point", shown_when=("what", "walk")),
        Number(
            "reach",
            0.0,
            "distances above this become this; 0 means no limit",
            unit="m",
            soft=(0, 5),
            low=0.0,
            shown_when=("what", "walk"),
        ),
    ),
)
def measure_elements(geo: Geo, *, what: str, name: str, begin: Flags, reach: float) -> Geo:
    """Measure elements and keep the numbers as an attribute."""
    called, entry = name or what, MEASURES[what]
    if what == "walk":
        return _walk(geo, called, begin, reach)
    if what in ("piece", "piece_size", "valence", "mean_curvature", "gauss_curvature"):
        tell_of_unshared(geo, "what is connected")
    for kind, read in entry.on.items():
        values = np.array(read(geo))
        if geo.topology.count(kind):
            note(f"'{called}' of each {kind} is {range_of(values, entry.unit)}.")
        geo = write_attribute(geo, kind, called, values)
    if what == "thickness" and (geo.attribute("point", called) < 0).any():
        note(f"{int((geo.attribute('point', called) < 0).sum()):,} points look at no other side and hold -1.")
    if what in ("piece", "piece_size") and geo.topology.point_count:
        note(f"There are {int(geo.topology.point_piece.max()) + 1:,} pieces.")
    return geo


def _walk(geo: Geo, name: str, begin: Flags, reach: float) -> Geo:
    tell_of_unshared(geo, "the way along the surface")
    if geo.topology.point_count and not begin.any():
        warn("There is no point to begin at, so no way leads anywhere.")
    far = geodesic_distances(geo, begin)
    lost = ~np.isfinite(far)
    if begin.any() and lost.any():
        note(f"{int(lost.sum()):,} points cannot be reached from there and hold -1.")
    values = np.where(lost, -1.0, np.minimum(far, reach) if reach > 0.0 else far)
    if (~lost).any():
        note(f"Distances are {range_of(values[~lost], 'm')}.")
    return write_attribute(geo, "point", name, values)
