"""Edges to curves."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Flags
from reticula.core.diagnostics import note, warn
from reticula.core.geometry import Geo, carry, kept
from reticula.core.geometry.edit.subset import subset
from reticula.core.geometry.mesh.edge_chains import edge_chains
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import GroupName, Number, Selection, Toggle

__all__ = ["edges_to_curves"]


@operator(
    "edges_to_curves",
    family="curves",
    keywords=("path", "outline", "border", "wire", "convert", "polyline", "chain"),
    carries="Carries all; a curve receives the edge attributes of its first edge, and existing curves their "
    "defaults for them.",
    example="""
        shape = geodesic_sphere(frequency=2)
        lines = edges_to_curves(shape, where="index % 2 == 0")
        sweep(lines, radius=0.02)
    """,
    related=("struts", "sweep", "cut_curve"),
    parameters=(
        Selection.each("edge", "edges to follow; empty means all"),
        Number(
            "corner_angle",
            180.0,
            "end curves where they turn by more than this",
            unit="°",
            soft=(0, 180),
            low=0.0,
            high=180.0,
            step=1,
        ),
        Toggle("keep_faces", False, "keep the faces"),
        GroupName("curve_group", "from_edges", "curve group that receives the new curves", kind="curve"),
    ),
)
def edges_to_curves(geo: Geo, *, where: Flags, corner_angle: float, keep_faces: bool, curve_group: str) -> Geo:
    """Put edges end to end to curves, as long as they can be.

    Curves end where more or fewer than two of the edges meet; loops are closed. The points are those of the mesh.
    """
    shape = geo.topology
    if not where.any():
        warn("No edge is marked, so no curves were made.")
    edges = shape.edges[where]
    stops = _sharp(geo, edges, corner_angle)
    start, point, closed, first = edge_chains(edges, shape.point_count, stops)
    topology = shape.with_curves(
        shape.point_count,
        np.concatenate([shape.curve_start, shape.curve_start[-1] + start[1:]]),
        np.concatenate([shape.curve_point, point]),
        np.concatenate([shape.curve_closed, closed]),
    )
    none = np.full(len(closed), -1)
    made = carry(geo, topology, {"curve": kept(np.concatenate([np.arange(shape.curve_count), none]))})
    source = np.concatenate([np.full(shape.curve_count, -1), np.flatnonzero(where)[first]])
    for name, found in geo.attributes["edge"].items():
        if not made.has("curve", name):
            made = made.with_attribute("curve", name, found.take(source))
    made = made.with_attribute("curve", curve_group, np.arange(topology.curve_count) >= shape.curve_count)
    note(f"{len(edges):,} edges became {len(closed):,} curves, {int(closed.sum()):,} of them closed.")
    return made if keep_faces else subset(made, faces=np.zeros(shape.face_count, bool))


def _sharp(geo: Geo, edges: np.ndarray, most: float) -> Flags:
    """Points where exactly two edges meet at an angle larger than ``most`` degrees."""
    count = geo.topology.point_count
    if most >= 180.0 or not len(edges):
        return np.zeros(count, bool)
    way = geo.positions[edges[:, 1]] - geo.positions[edges[:, 0]]
    way /= np.maximum(np.linalg.norm(way, axis=1, keepdims=True), 1e-300)
    total = np.zeros((count, 3))
    np.add.at(total, edges[:, 0], way)
    np.add.at(total, edges[:, 1], -way)
    turn = 2.0 * np.degrees(np.arcsin(np.clip(np.linalg.norm(total, axis=1) / 2.0, 0.0, 1.0)))
    return (np.bincount(edges.reshape(-1), minlength=count) == 2) & (turn > most)
