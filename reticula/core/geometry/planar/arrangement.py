"""Triangles cut along segments that lie in them."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import shapely

from reticula.core.arrays import AnyArray, Floats, following_in_rows
from reticula.core.geometry.planar.delaunay import triangulate_polygon
from reticula.core.rows import unit

__all__ = ["Parts", "arrange_segments"]

GRID = 1e-11
"""Cuts are rounded to this share of the size, so that ends meet (snap rounding)."""


@dataclass(frozen=True, eq=False)
class Parts:
    """Polygons ``start (M+1,)`` with ``place (N, 3)`` that make up triangles; ``owner (M,)`` names the triangle."""

    start: AnyArray
    place: Floats
    owner: AnyArray


def arrange_segments(triangles: Floats, owner: AnyArray, segments: Floats, size: float) -> Parts:
    """Cut ``triangles (T, 3, 3)`` along ``segments (S, 2, 3)`` of the triangles ``owner (S,)``.

    The segments of a triangle are put together with its outline and noded by GEOS; parts with holes become triangles.
    """
    origin = triangles[:, 0]
    x = unit(triangles[:, 1] - origin)
    normal = unit(np.cross(x, triangles[:, 2] - origin))
    y = np.cross(normal, x)

    def flat(places: Floats, of: AnyArray) -> Floats:
        local = places - origin[of]
        return np.stack([np.einsum("ij,ij->i", local, x[of]), np.einsum("ij,ij->i", local, y[of])], axis=1)

    count = len(triangles)
    every = np.repeat(np.arange(count), 3)
    ring = np.stack(
        [flat(triangles.reshape(-1, 3), every), flat(triangles[:, [1, 2, 0]].reshape(-1, 3), every)], axis=1
    )
    cuts = np.stack([flat(segments[:, 0], owner), flat(segments[:, 1], owner)], axis=1)
    group = np.concatenate([every, owner])
    order = np.argsort(group, kind="stable")
    lines = shapely.linestrings(np.concatenate([ring, cuts])[order])
    together = shapely.multilinestrings(lines, indices=group[order])
    noded = shapely.unary_union(together[:, None], grid_size=GRID * size, axis=-1)
    polygons, of = shapely.get_parts(shapely.polygonize(noded[:, None], axis=-1), return_index=True)
    holed = shapely.get_num_interior_rings(polygons) > 0
    whole = polygons[~holed]
    rings, index = shapely.get_coordinates(shapely.get_exterior_ring(whole), return_index=True)
    last = np.append(index[1:] != index[:-1], True)
    rings, index = rings[~last], index[~last]
    places, owners, sizes = [rings], [of[~holed]], [np.bincount(index, minlength=len(whole))]
    for polygon, triangle in zip(polygons[holed], of[holed], strict=True):
        loops = [shapely.get_coordinates(r)[:-1] for r in (polygon.exterior, *polygon.interiors)]
        starts = np.concatenate([[0], np.cumsum([len(loop) for loop in loops])])
        corner = np.concatenate(loops)
        made = triangulate_polygon(corner, [np.arange(a, b) for a, b in zip(starts, starts[1:], strict=False)])
        places.append(corner[made].reshape(-1, 2))
        owners.append(np.full(len(made), triangle))
        sizes.append(np.full(len(made), 3))
    size_of, owner_of = np.concatenate(sizes), np.concatenate(owners)
    corners, row = np.concatenate(places), np.repeat(owner_of, size_of)
    start = np.concatenate([[0], np.cumsum(size_of)])
    area = np.zeros(len(size_of))
    ahead = following_in_rows(start)
    np.add.at(
        area,
        np.repeat(np.arange(len(size_of)), size_of),
        corners[:, 0] * corners[ahead, 1] - corners[ahead, 0] * corners[:, 1],
    )
    step = np.arange(len(corners)) - np.repeat(start[:-1], size_of)
    back = np.repeat(start[1:] - 1, size_of) - step
    corners = corners[np.where(np.repeat(area < 0, size_of), back, np.arange(len(corners)))]
    place = origin[row] + corners[:, :1] * x[row] + corners[:, 1:] * y[row]
    return Parts(start, place, owner_of)
