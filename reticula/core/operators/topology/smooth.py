"""Smooth: even out the places of points."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Flags, Floats, Indices
from reticula.core.diagnostics import note, warn
from reticula.core.geometry import Geo
from reticula.core.geometry.remesh.curve_stretch import stretched_curves
from reticula.core.jit import parallel_kernel, prange
from reticula.core.language.scope import adjacent
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Choice, Integer, PerElement, Selection, Toggle

__all__ = ["smooth", "smoothed"]

PASS_BAND = 0.1


@parallel_kernel
def _step(positions: Floats, start: Indices, near: Indices, strength: Floats, factor: float) -> Floats:
    out = np.empty_like(positions)
    for p in prange(len(positions)):
        count = start[p + 1] - start[p]
        if count == 0 or strength[p] == 0.0:
            for i in range(3):
                out[p, i] = positions[p, i]
            continue
        x = y = z = 0.0
        for k in range(start[p], start[p + 1]):
            q = near[k]
            x += positions[q, 0]
            y += positions[q, 1]
            z += positions[q, 2]
        w = factor * strength[p]
        out[p, 0] = positions[p, 0] + w * (x / count - positions[p, 0])
        out[p, 1] = positions[p, 1] + w * (y / count - positions[p, 1])
        out[p, 2] = positions[p, 2] + w * (z / count - positions[p, 2])
    return out


def smoothed(geo: Geo, strength: Floats, iterations: int, *, keep_volume: bool) -> Floats:
    """Return positions ``(P, 3)`` moved towards the mean of their neighbours ``iterations`` times.

    ``strength (P,)`` is the share of the way, 0 to 1. Keeping volume follows each step with one outwards:
    Taubin, "A signal processing approach to fair surface design", SIGGRAPH 1995, with a pass band of 0.1.
    """
    start, near = adjacent(geo, "point", "neighbours")
    positions = np.ascontiguousarray(geo.positions)
    for _ in range(iterations):
        positions = _step(positions, start, near, strength, 1.0 if not keep_volume else 0.6)
        if keep_volume:
            positions = _step(positions, start, near, strength, 1.0 / (PASS_BAND - 1.0 / 0.6))
    return positions


@operator(
    "smooth",
    family="topology",
    keywords=("relax", "laplacian", "taubin", "fair", "even out", "blur positions"),
    carries="Carries all; only positions change.",
    example="""
        rough = displace(geodesic_sphere(frequency=24), value="random() - 0.5", amount=0.12)
        smooth(rough, iterations=12)
    """,
    related=("blur_values", "relax", "smooth_subdivide"),
    parameters=(
        Selection.each("point", "points to move; empty means all"),
        Integer("iterations", 5, "how often", soft=(1, 50), low=0, high=10000),
        PerElement(
            "strength",
            0.5,
            "share of the way to the mean of the neighbours, each time",
            on="point",
            soft=(0.0, 1.0),
            low=0.0,
        ),
        Choice(
            "keep",
            "volume",
            "what is kept",
            options={
                "volume": "every step is followed by one outwards, so that the shape does not shrink",
                "length": "curves keep their length: they are stretched about their middle, or away from their chord",
                "area": "closed curves keep the area that they enclose",
                "nothing": "plain Laplacian: shrinks",
            },
        ),
        Toggle("pin_borders", True, "points on open borders and ends of open curves stay where they are"),
    ),
)
def smooth(geo: Geo, *, where: Flags, iterations: int, strength: Floats, keep: str, pin_borders: bool) -> Geo:
    """Move points towards the mean of their neighbours, again and again.

    Neighbours are joined by an edge of a face, or by a curve. Keeping volume uses Taubin's two-step filter (SIGGRAPH
    1995). Points outside of the group stay to the bit; a curve of which some points stay is stretched only if these are
    the ends that are pinned.
    """
    shape = geo.topology
    if not where.any():
        warn("No point is marked, so nothing moved.")
    ends = shape.border_points | shape.curve_ends
    pinned = ~where | ends if pin_borders else ~where
    if where.any() and not (np.diff(shape.point_neighbours[0]) > 0)[~pinned].any():
        warn("No point that may move has a neighbour, so nothing moved.")
    share = np.where(pinned, 0.0, np.clip(strength, 0.0, 1.0))
    made = smoothed(geo, share, iterations, keep_volume=keep == "volume")
    if pin_borders and (where & shape.border_points).any():
        note(f"{int((where & shape.border_points).sum()):,} points on open borders stay.")
    if keep in ("length", "area"):
        stretched, left = stretched_curves(geo, made, pinned, keep)
        if left or not shape.curve_count:
            warn(f"{left:,} of {shape.curve_count:,} curves could not keep their {keep}.")
        made = stretched
    return geo.with_positions(made)
