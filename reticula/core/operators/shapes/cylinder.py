"""Cylinders."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray, starts_from_sizes
from reticula.core.geometry import Geo, Topology
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Integer, Number, Toggle
from reticula.core.operators.shared.lattice import lattice_quads, lattice_uv

__all__ = ["cylinder"]


@operator(
    "cylinder",
    family="shapes",
    inputs=(),
    keywords=("tube", "pipe", "disc"),
    carries="makes the corner attribute uv and the face groups side and cap",
    example="""
        cylinder(radius=0.4, height=0.8, segments=40, rings=4)
    """,
    related=("cone", "disc", "sweep"),
    parameters=(
        Number("radius", 0.5, "distance of the side from the y axis", unit="m", soft=(0, 5), low=0.0),
        Number("height", 1.0, "length along y", unit="m", soft=(0, 5), low=0.0),
        Integer("segments", 32, "faces around", soft=(3, 200), low=3, high=8000),
        Integer("rings", 1, "faces along the height", soft=(1, 100), low=1, high=8000),
        Toggle("caps", True, "close both ends with one polygon each"),
    ),
)
def cylinder(*, radius: float, height: float, segments: int, rings: int, caps: bool) -> Geo:
    """Cylinder of quads around the y axis, its ends closed or open."""
    turn = (np.arange(segments) * (2 * np.pi / segments))[None, :]
    y = np.broadcast_to(np.linspace(-0.5, 0.5, rings + 1)[:, None] * height, (rings + 1, segments))
    x, z = np.broadcast_to(np.sin(turn) * radius, y.shape), np.broadcast_to(np.cos(turn) * radius, y.shape)
    positions = np.stack([x, y, z], axis=-1).reshape(-1, 3)
    quads = lattice_quads(rings + 1, segments, wrap_columns=True)
    corners: list[AnyArray] = [quads.reshape(-1)]
    sizes: list[AnyArray] = [np.full(len(quads), 4)]
    uv = [lattice_uv(rings, segments)]
    if caps:
        around = np.arange(segments)
        flat = np.stack([np.sin(turn[0]), np.cos(turn[0])], axis=1) * 0.5 + 0.5
        corners += [around[::-1], around + rings * segments]
        sizes.append(np.full(2, segments))
        uv += [flat[::-1], flat]
    shape = Topology(len(positions), starts_from_sizes(np.concatenate(sizes)), np.concatenate(corners))
    side = np.arange(shape.face_count) < len(quads)
    geo = Geo.of(positions, shape).with_attribute("corner", "uv", np.concatenate(uv))
    return geo.with_attribute("face", "side", side).with_attribute("face", "cap", ~side)
