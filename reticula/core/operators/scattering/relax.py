"""Relax: points evened out on a surface."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats
from reticula.core.diagnostics import note, warn
from reticula.core.geometry import Geo
from reticula.core.geometry.measure.areas import curve_lengths, face_areas
from reticula.core.geometry.mesh.incidence import ragged_reduce
from reticula.core.operators.declaration.operator import Input, operator
from reticula.core.operators.declaration.parameters import Choice, Integer, Number, Selection, Space
from reticula.core.spatial.points import NearestPoints
from reticula.core.spatial.sampling import sample_closest

__all__ = ["relax"]

REACH = 1.9
"""How far points push each other, in units of the spacing that as many evenly spaced points would have."""


@operator(
    "relax",
    family="scattering",
    inputs=(
        Input("geo", "points to even out"),
        Input("surface", "mesh or curves on which they stay; without any they move freely", optional=True),
    ),
    keywords=("even", "spread", "repel", "space", "smooth", "distribute", "lloyd"),
    carries="Carries all; a stored normal of points becomes that of the surface where they come to rest.",
    example="""
        disc_of_points = scatter(disc(), total=300, seed=2)
        even = relax(disc_of_points, disc(), passes=30)
        pearl = geodesic_sphere(radius=0.015, frequency=2)
        pearls = place_instances(even, pearl)
        flatten_instances(pearls)
    """,
    related=("scatter", "smooth", "resample"),
    parameters=(
        Selection.each("point", "points that move; empty means all. The others stay and push."),
        Integer("passes", 20, "how often", soft=(0, 100), low=0, high=10_000),
        Number("step", 0.5, "how far each goes", soft=(0, 1), low=0.0, high=1.0),
        Number(
            "radius", 0.0, "how far points push each other; 0 means by their number", unit="m", soft=(0, 1), low=0.0
        ),
        Choice(
            "borders",
            "hold",
            "points on open borders of a mesh and at ends of open curves",
            options={"hold": "stay", "free": "move too"},
        ),
        Space.choice(),
    ),
)
def relax(
    geo: Geo, surface: Geo | None, *, where: Flags, passes: int, step: float, radius: float, borders: str, space: str
) -> Geo:
    """Even out points: each is pushed away by those around it, and comes back to the surface after every pass.

    Without a surface, a mesh stays on itself as it was, points of curves stay on their curves, and loose points move in
    space.
    """
    count = geo.topology.point_count
    if count < 2:
        return geo
    ground = surface if surface is not None else geo if _has_ground(geo) else None
    if ground is not None and not _has_ground(ground):
        warn("'surface' has no faces or curves, so points move freely.")
        ground = None
    reach = radius or REACH * _spacing(geo, ground, count)
    if not reach > 0.0:
        note("All points lie in one place, or there is no area, so nothing can be evened out.")
        return geo
    held = geo.topology.border_points | geo.topology.curve_ends
    moving = where & ~held if borders == "hold" else where
    positions = np.array(geo.positions)
    normals = np.zeros_like(positions)
    for _ in range(passes):
        push = _push(positions, reach)
        push[~moving] = 0.0
        positions = positions + step * push
        if ground is not None:
            place = sample_closest(ground, positions)
            positions = np.where(moving[:, None], place.position, positions)
            normals = place.normal
    way = np.linalg.norm(positions - geo.positions, axis=1)
    note(f"Points moved by up to {way.max():.3g} m, felt within {reach:.3g} m.")
    made = geo.with_positions(positions)
    if passes and ground is not None and made.has("point", "normal") and made.find("point", "normal").type == "vec3":
        old = made.attribute("point", "normal")
        made = made.with_attribute("point", "normal", np.where(moving[:, None], normals, old))
    return made


def _has_ground(geo: Geo) -> bool:
    return bool(geo.topology.face_count or len(geo.topology.curve_segments[0]))


def _spacing(geo: Geo, ground: Geo | None, count: int) -> float:
    if ground is not None and not ground.topology.face_count:
        return float(curve_lengths(ground).sum() / count)
    if ground is not None:
        return float(np.sqrt(2.0 / np.sqrt(3.0) * face_areas(ground).sum() / count))
    size = geo.bounds[1] - geo.bounds[0]
    solid = size[size > 1e-9 * max(float(size.max()), 1e-300)]
    return float((np.prod(solid) / count) ** (1.0 / max(len(solid), 1))) if len(solid) else 0.0


def _push(positions: Floats, reach: float) -> Floats:
    """The sum of pushes by the points around: full beside a point, nothing at the reach; as long as the gap to
    close.
    """
    start, item, distance = NearestPoints(positions).near(positions, reach)
    owner = np.repeat(np.arange(len(positions)), np.diff(start))
    away = positions[owner] - positions[item]
    same = (distance == 0.0) & (owner != item)
    if same.any():
        away[same] = _any_way(owner[same], item[same])
    share = np.where((distance > 0.0) | same, 1.0 - distance / reach, 0.0)
    pushes = away * (share * share / np.where(same, 1.0, np.maximum(distance, 1e-300)))[:, None] * reach
    return np.asarray(ragged_reduce("sum", start, pushes)) * 0.25


def _any_way(a: AnyArray, b: AnyArray) -> Floats:
    """A unit vector for each pair of points in one place ``(N, 3)``; the two of a pair get opposite ones."""
    low, high = np.minimum(a, b).astype(np.float64), np.maximum(a, b).astype(np.float64)
    turn, height = 2.399963 * (low + 1.0) + high, np.sin(1.7 * low + 0.9 * high + 0.3)
    flat = np.sqrt(1.0 - height * height)
    way = np.stack([flat * np.cos(turn), height, flat * np.sin(turn)], axis=1)
    return np.asarray(way * np.where(a < b, 1.0, -1.0)[:, None])
