"""Many closed outlines without holes, each in a plane of its own, cut into triangles at once."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
import shapely

from reticula.core.arrays import AnyArray, Flags, Floats, Indices, Ints
from reticula.core.geometry.planar.delaunay import made_delaunay

__all__ = ["LoopTriangles", "triangulate_loops"]


class LoopTriangles(NamedTuple):
    """Triangles ``point (T, 3)`` in the order of the loops, the ``loop (T,)`` of each, and which loops are ``done
    (L,)``: not those that cross themselves or bound no area.
    """

    point: Ints
    loop: Ints
    done: Flags


def triangulate_loops(positions: Floats, loops: Sequence[AnyArray], normals: Floats) -> LoopTriangles:
    """Return the constrained Delaunay triangles of loops of point numbers, counter-clockwise seen against their
    ``normals (L, 3)``. The same as `triangulate_polygon` makes of each.
    """
    size = np.array([len(loop) for loop in loops])
    owner = np.repeat(np.arange(len(loops)), size)
    points = np.concatenate(loops)
    flat = _flat(positions[points], owner, size, normals)
    rings = shapely.polygons(shapely.linearrings(flat, indices=owner))
    done = (np.linalg.norm(normals, axis=1) > 0) & shapely.is_valid(rings)
    pieces, source = shapely.get_parts(shapely.constrained_delaunay_triangles(rings[done]), return_index=True)
    loop = np.flatnonzero(done)[source]
    corner = shapely.get_coordinates(pieces).reshape(-1, 4, 2)[:, :3].reshape(-1, 2)
    tri = _numbered(flat, owner, corner, np.repeat(loop, 3)).reshape(-1, 3)
    tri = made_delaunay(flat, tri) if len(tri) else tri
    loop = owner[tri[:, 0]]
    order = np.argsort(loop, kind="stable")
    return LoopTriangles(points[tri[order]].astype(np.int64), loop[order], done)


def _flat(places: Floats, owner: AnyArray, size: AnyArray, normals: Floats) -> Floats:
    """Lay each loop flat about its middle; its normal looks at the viewer."""
    sums = np.stack([np.bincount(owner, places[:, k], minlength=len(size)) for k in range(3)], axis=1)
    off = places - (sums / size[:, None])[owner]
    up = normals / np.maximum(np.linalg.norm(normals, axis=1, keepdims=True), 1e-300)
    x = np.cross(np.eye(3)[np.abs(up).argmin(axis=1)], up)
    x /= np.maximum(np.linalg.norm(x, axis=1, keepdims=True), 1e-300)
    y = np.cross(up, x)
    return np.stack([np.einsum("ij,ij->i", off, axis[owner]) for axis in (x, y)], axis=1)


def _numbered(flat: Floats, owner: AnyArray, corner: Floats, loop: AnyArray) -> Indices:
    """Return the row of ``flat (N, 2)`` in which each ``corner (M, 2)`` of a loop lies."""
    places = np.concatenate([flat, corner]) + 0.0
    order = np.lexsort([places[:, 1], places[:, 0], np.concatenate([owner, loop])])
    first = order < len(flat)
    group = np.cumsum(first) - 1
    return order[first][group[np.argsort(order)[len(flat) :]]].astype(np.int32)
