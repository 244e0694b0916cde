"""Faces that fill loops: one polygon, plain triangles, or an even mesh."""

from __future__ import annotations

from dataclasses import dataclass
from typing import NamedTuple

import numpy as np
import scipy
import shapely

from reticula.core.arrays import AnyArray, Floats, Indices, starts_from_sizes
from reticula.core.geometry.planar.delaunay import lattice_inside, polygon_of, triangulate_polygon
from reticula.core.geometry.planar.graded_points import graded_points

__all__ = ["Filling", "Inside", "fill_region", "nest_loops", "nest_oriented_loops", "project_to_plane"]

NOTHING = np.zeros(0, np.int64)
LEVEL = 1e-4
"""How far loose points may lie above or below a region, as a share of its size."""


@dataclass(frozen=True, eq=False)
class Filling:
    """Faces over existing points and added ones.

    ``start (F+1,)`` and ``point`` are faces; numbers from ``first_new`` on are ``added (M, 3)`` points in order.
    """

    start: Indices
    point: Indices
    added: Floats


def project_to_plane(points: Floats, normal: Floats) -> tuple[Floats, Floats]:
    """Return ``points (N, 3)`` in the plane through the origin across ``normal``: places ``(N, 2)`` and both axes
    ``(2, 3)``.

    Seen against the normal, the axes turn counter-clockwise. Without one, the best plane is taken (least squares).
    """
    length = float(np.linalg.norm(normal))
    if length < 1e-300:
        normal = (
            np.linalg.svd(points - points.mean(axis=0), full_matrices=False)[2][2] if len(points) > 2 else np.eye(3)[1]
        )
        length = float(np.linalg.norm(normal))
    n = normal / length
    helper = np.eye(3)[int(np.abs(n).argmin())]
    x = np.cross(helper, n)
    x /= np.linalg.norm(x)
    axes = np.stack([x, np.cross(n, x)])
    return np.ascontiguousarray(points @ axes.T), axes


def nest_loops(loops: list[Floats]) -> list[list[int]]:
    """Sort closed outlines ``(N, 2)`` into regions: each an outer loop followed by the holes directly inside it
    (even-odd).
    """
    if len(loops) == 1:
        return [[0]]
    sizes = np.array([len(loop) for loop in loops])
    rings = shapely.linearrings(np.concatenate(loops), indices=np.repeat(np.arange(len(loops)), sizes))
    places = shapely.points(np.stack([loop[0] for loop in loops]))
    inner, outer = shapely.STRtree(shapely.polygons(rings)).query(places, predicate="within")
    inner, outer = inner[inner != outer], outer[inner != outer]
    depth = np.bincount(inner, minlength=len(loops))
    order = np.lexsort([depth[outer], inner])
    last = order[np.append(inner[order][1:] != inner[order][:-1], True)] if len(order) else order
    around = np.full(len(loops), -1)
    around[inner[last]] = outer[last]
    regions: dict[int, list[int]] = {int(n): [int(n)] for n in np.flatnonzero(depth % 2 == 0)}
    for hole in np.flatnonzero(depth % 2).tolist():
        owner = int(around[hole])
        regions.setdefault(owner if owner in regions else hole, []).append(hole)
    return list(regions.values())


def nest_oriented_loops(loops: list[Floats]) -> list[list[int]]:
    """Sort closed outlines ``(N, 2)`` that run around what they bound into regions by winding number.

    Each region is an outline that runs counter-clockwise, followed by the clockwise ones that are its holes. A place
    around which the outlines wind twice lies in two regions. A clockwise outline in no other is a region of its own.
    """
    rings = [shapely.Polygon(loop) for loop in loops]
    outer = [ring.exterior.is_ccw for ring in rings]
    regions: dict[int, list[int]] = {n: [n] for n in range(len(loops)) if outer[n]}
    if len(regions) == len(loops):
        return list(regions.values())
    sizes = np.array([ring.area for ring in rings])
    tree = shapely.STRtree(shapely.point_on_surface(rings))
    around: list[list[int]] = [[] for _ in loops]
    shapely.prepare(rings)
    for n, m in sorted(tree.query(rings, predicate="contains").T.tolist(), key=lambda pair: -sizes[pair[0]]):
        if m != n and sizes[m] <= sizes[n] and shapely.intersects_xy(rings[n], loops[m]).all():
            around[m].append(n)
    for n in np.argsort(-sizes, kind="stable").tolist():
        if outer[n]:
            continue
        open_: list[int] = []
        for other in around[n]:
            if outer[other]:
                open_.append(other)
            elif open_:
                open_.pop()
        if open_:
            regions[open_[-1]].append(n)
        else:
            regions[n] = [n]
    return list(regions.values())


class Inside(NamedTuple):
    """What is put inside a region: about ``across`` edges across a square as large as it (0: no points are made), and
    those of the ``loose (N,)`` points that lie in it.
    """

    across: float = 0.0
    loose: AnyArray = NOTHING


def fill_region(
    positions: Floats, loops: list[AnyArray], normal: Floats, how: str, inside: Inside, first_new: int
) -> Filling:
    """Fill a region: ``loops`` of point numbers, the outline counter-clockwise seen against ``normal``, then holes.

    ``how`` is polygon (a region with holes gets triangles), triangles or even. Loose points inside become points of the
    triangles; an even mesh gets more of them, as dense at the border as its edges are long.
    """
    if how == "polygon" and len(loops) == 1:
        return Filling(np.array([0, len(loops[0])], np.int32), np.asarray(loops[0], np.int32), np.zeros((0, 3)))
    used = np.concatenate(loops)
    center = positions[used].mean(axis=0)
    flat, axes = project_to_plane(positions[used] - center, normal)
    up = np.cross(axes[0], axes[1])
    sizes = starts_from_sizes(np.array([len(loop) for loop in loops]))
    local = [np.arange(sizes[i], sizes[i + 1]) for i in range(len(loops))]
    polygon = polygon_of(flat[local[0]], [flat[ring] for ring in local[1:]])
    loose = inside.loose if how != "polygon" else NOTHING
    loose = _within(polygon, positions[loose] - center, loose, axes)
    inner = (positions[loose] - center) @ axes.T
    if how == "even":
        spacing = max(float(np.sqrt(polygon.area)) / max(inside.across, 1.0), 1e-300)
        lattice = lattice_inside(polygon, spacing)
        if len(inner) and len(lattice):
            lattice = lattice[scipy.spatial.cKDTree(inner).query(lattice)[0] > 0.6 * spacing]
        inner, triangles = graded_points(flat, local, np.concatenate([inner, lattice]), len(loose))
    else:
        triangles = triangulate_polygon(flat, local, inner)
    made = inner[len(loose) :]
    number = np.concatenate([used, loose, first_new + np.arange(len(made))])
    start = 3 * np.arange(len(triangles) + 1, dtype=np.int32)
    added = center + made @ axes
    height = ((positions[used] - center) @ up).mean()
    return Filling(start, number[triangles].reshape(-1).astype(np.int32), added + height * up)


def _within(polygon: shapely.Polygon, places: Floats, points: AnyArray, axes: Floats) -> AnyArray:
    """Return those of some points that lie in the plane of a polygon and inside it, not on its border."""
    if not len(points):
        return points
    size = float(np.sqrt(polygon.area))
    flat = places @ axes.T
    near = np.abs(places @ np.cross(axes[0], axes[1])) <= LEVEL * size
    near &= shapely.contains_xy(polygon, flat[:, 0], flat[:, 1])
    near &= shapely.distance(polygon.boundary, shapely.points(flat)) > 1e-6 * size
    return points[near]
