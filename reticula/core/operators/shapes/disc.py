"""Round flat sheets, and cones."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import starts_from_sizes
from reticula.core.geometry import Geo, Topology
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Choice, Integer, Number
from reticula.core.operators.shared.lattice import lattice_quads
from reticula.core.operators.shared.plane_curves import FACING, place_in_plane

__all__ = ["cone", "disc"]


@operator(
    "disc",
    family="shapes",
    inputs=(),
    keywords=("circle", "round", "plate", "coin", "sheet"),
    carries="makes the corner attribute uv",
    example="""
        disc(radius=0.5, segments=40, rings=5)
    """,
    related=("circle", "grid", "cylinder"),
    parameters=(
        Number("radius", 0.5, "distance of the border from the middle", unit="m", soft=(0, 5), low=0.0),
        Integer("segments", 32, "faces around", soft=(3, 200), low=3, high=100_000),
        Integer("rings", 4, "faces from the middle to the border", soft=(1, 50), low=1, high=100_000),
        Choice(
            "middle",
            "triangles",
            "the innermost ring",
            options={"triangles": "triangles around a point", "polygon": "one face"},
        ),
        FACING,
    ),
)
def disc(*, radius: float, segments: int, rings: int, middle: str, facing: str) -> Geo:
    """Round sheet around the origin: a polygon or triangles in the middle, quads around."""
    angle = np.arange(segments) * (2 * np.pi / segments)
    far = np.arange(1, rings + 1) / rings
    flat = (far[:, None, None] * np.stack([np.cos(angle), np.sin(angle)], axis=1)[None]).reshape(-1, 2)
    quads = lattice_quads(rings, segments, wrap_columns=True)[:, [0, 3, 2, 1]]
    a = np.arange(segments)
    if middle == "polygon":
        sizes = np.concatenate([[segments], np.full(len(quads), 4)])
        corners = np.concatenate([a, quads.reshape(-1)])
    else:
        flat = np.concatenate([flat, [[0.0, 0.0]]])
        tips = np.stack([np.full(segments, len(flat) - 1), a, (a + 1) % segments], axis=1)
        sizes = np.concatenate([np.full(segments, 3), np.full(len(quads), 4)])
        corners = np.concatenate([tips.reshape(-1), quads.reshape(-1)])
    geo = Geo.of(place_in_plane(flat * radius, facing), Topology(len(flat), starts_from_sizes(sizes), corners))
    return geo.with_attribute("corner", "uv", 0.5 + 0.5 * flat[corners])


@operator(
    "cone",
    family="shapes",
    inputs=(),
    keywords=("spike", "tip", "funnel", "frustum", "pyramid", "barnacle"),
    carries="makes no attributes",
    example="""
        cone(radius=0.45, top_radius=0.15, height=0.9, segments=40, rows=4)
    """,
    related=("cylinder", "disc", "sphere"),
    parameters=(
        Number("radius", 0.5, "of the bottom", unit="m", soft=(0, 5), low=0.0),
        Number("top_radius", 0.0, "of the top; 0 makes a tip", unit="m", soft=(0, 5), low=0.0),
        Number("height", 1.0, "along y", unit="m", soft=(0, 5), low=0.0),
        Integer("segments", 32, "faces around", soft=(3, 100), low=3, high=100_000),
        Integer("rows", 1, "faces from bottom to top", soft=(1, 50), low=1, high=100_000),
    ),
)
def cone(*, radius: float, top_radius: float, height: float, segments: int, rows: int) -> Geo:
    """Closed cone around the y axis, its middle in the origin; blunt if it has a top radius."""
    angle = np.arange(segments) * (2 * np.pi / segments)
    share = np.arange(rows + 1) / rows
    if top_radius == 0.0:
        share = share[:-1]
    far = radius + share * (top_radius - radius)
    y = np.repeat((share - 0.5) * height, segments)
    x, z = (far[:, None] * np.sin(angle)).reshape(-1), (far[:, None] * np.cos(angle)).reshape(-1)
    positions = np.stack([x, y, z], axis=1)
    quads = lattice_quads(len(share), segments, wrap_columns=True)
    a = np.arange(segments)
    last = (len(share) - 1) * segments
    bottom = a[::-1]
    if top_radius == 0.0:
        positions = np.concatenate([positions, [[0.0, 0.5 * height, 0.0]]])
        top = np.stack([last + a, last + (a + 1) % segments, np.full(segments, len(positions) - 1)], axis=1)
        sizes = [*np.full(len(quads), 4), *np.full(segments, 3), segments]
    else:
        top = (last + a)[None]
        sizes = [*np.full(len(quads), 4), segments, segments]
    corners = np.concatenate([quads.reshape(-1), top.reshape(-1), bottom])
    return Geo.of(positions, Topology(len(positions), starts_from_sizes(np.array(sizes)), corners))
