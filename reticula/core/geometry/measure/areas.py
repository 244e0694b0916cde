"""Normals, areas, lengths and centres, computed once per geometry."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Flags, Floats, Indices
from reticula.core.geometry.mesh.geo import Geo, once_per_geo
from reticula.core.jit import parallel_kernel, prange
from reticula.core.rows import row_crosses, row_dots, row_lengths, rows_at, unit

__all__ = [
    "area_vectors",
    "corner_positions",
    "corner_turns",
    "curve_centers",
    "curve_lengths",
    "edge_centers",
    "edge_lengths",
    "face_areas",
    "face_centers",
    "face_normals",
    "face_perimeters",
    "face_planarity",
    "faces_seen_from_center",
    "gather_sum",
    "point_normals",
    "row_means",
]


@parallel_kernel
def _area_vectors(positions: Floats, face_start: Indices, corner_point: Indices) -> Floats:
    out = np.zeros((len(face_start) - 1, 3))
    for f in prange(len(face_start) - 1):
        first, last = face_start[f], face_start[f + 1]
        ox, oy, oz = positions[corner_point[first]]
        x = y = z = 0.0
        for c in range(first + 1, last - 1):
            a, b = corner_point[c], corner_point[c + 1]
            ax, ay, az = positions[a, 0] - ox, positions[a, 1] - oy, positions[a, 2] - oz
            bx, by, bz = positions[b, 0] - ox, positions[b, 1] - oy, positions[b, 2] - oz
            x += ay * bz - az * by
            y += az * bx - ax * bz
            z += ax * by - ay * bx
        out[f, 0], out[f, 1], out[f, 2] = 0.5 * x, 0.5 * y, 0.5 * z
    return out


@parallel_kernel
def gather_sum(start: Indices, item: Indices, owner: Indices, values: Floats) -> Floats:
    out = np.zeros((len(start) - 1, values.shape[1]))
    for i in prange(len(start) - 1):
        for k in range(start[i], start[i + 1]):
            for w in range(values.shape[1]):
                out[i, w] += values[owner[item[k]], w]
    return out


@parallel_kernel
def row_means(start: Indices, item: Indices, values: Floats) -> Floats:
    """Return the means ``(R, k)`` of ``values (N, k)`` listed by ``item`` in rows ``start (R+1,)``."""
    out = np.zeros((len(start) - 1, values.shape[1]))
    for i in prange(len(start) - 1):
        size = start[i + 1] - start[i]
        for k in range(start[i], start[i + 1]):
            for w in range(values.shape[1]):
                out[i, w] += values[item[k], w]
        for w in range(values.shape[1]):
            out[i, w] /= size
    return out


@once_per_geo
def area_vectors(geo: Geo) -> Floats:
    """Return each face's area times its normal, m² ``(F, 3)``: Newell's method, exact for planar polygons."""
    return _area_vectors(geo.positions, geo.topology.face_start, geo.topology.corner_point)


@once_per_geo
def face_areas(geo: Geo) -> Floats:
    """Return the area of each face in m² ``(F,)``; of a bent one, that of its projection along its normal."""
    return row_lengths(area_vectors(geo))


@once_per_geo
def face_normals(geo: Geo) -> Floats:
    """Return unit normals of the faces ``(F, 3)``; 0 for faces without area."""
    return unit(area_vectors(geo))


@once_per_geo
def point_normals(geo: Geo) -> Floats:
    """Return unit normals of the points ``(P, 3)``: the mean of their faces' normals by area; 0 for loose points."""
    start, corners = geo.topology.point_corners
    return unit(gather_sum(start, corners, geo.topology.corner_face, area_vectors(geo)))


@once_per_geo
def face_centers(geo: Geo) -> Floats:
    """Return the mean of each face's points ``(F, 3)``."""
    return row_means(geo.topology.face_start, geo.topology.corner_point, geo.positions)


@once_per_geo
def corner_turns(geo: Geo) -> Floats:
    """Return twice the area of the triangle of each corner and the two beside it, m² ``(C,)``, seen along the normal of
    its face: below 0 where the face is hollow.
    """
    shape = geo.topology
    at = rows_at(geo.positions, shape.corner_point)
    ahead, back = rows_at(at, shape.corner_next) - at, rows_at(at, shape.corner_previous) - at
    return row_dots(row_crosses(ahead, back), rows_at(face_normals(geo), shape.corner_face))


@once_per_geo
def faces_seen_from_center(geo: Geo) -> Flags:
    """Return which faces ``(F,)`` lie open to the mean of their points: joined to it, no edge turns over.

    Concave faces may not; of faces without area, all do.
    """
    shape = geo.topology
    if len(shape.corner_point) == 3 * shape.face_count:
        return np.ones(shape.face_count, bool)  # triangles do
    return _seen(geo.positions, shape.face_start, shape.corner_point, face_centers(geo), area_vectors(geo))


@parallel_kernel
def _seen(positions: Floats, face_start: Indices, corner_point: Indices, centers: Floats, areas: Floats) -> Flags:
    out = np.ones(len(face_start) - 1, np.bool_)
    for f in prange(len(face_start) - 1):
        n, o = areas[f], centers[f]
        least = -1e-12 * (n[0] * n[0] + n[1] * n[1] + n[2] * n[2])
        first, last = face_start[f], face_start[f + 1]
        for c in range(first, last):
            p, q = corner_point[c], corner_point[c + 1 if c + 1 < last else first]
            ax, ay, az = positions[p, 0] - o[0], positions[p, 1] - o[1], positions[p, 2] - o[2]
            bx, by, bz = positions[q, 0] - o[0], positions[q, 1] - o[1], positions[q, 2] - o[2]
            x, y, z = ay * bz - az * by, az * bx - ax * bz, ax * by - ay * bx
            out[f] &= x * n[0] + y * n[1] + z * n[2] >= least
    return out


@once_per_geo
def face_perimeters(geo: Geo) -> Floats:
    """Return the length of each face's outline in m ``(F,)``."""
    shape = geo.topology
    if not shape.face_count:
        return np.zeros(0)
    return np.add.reduceat(edge_lengths(geo)[shape.corner_edge], shape.face_start[:-1])


@parallel_kernel
def _planarity(
    positions: Floats, face_start: Indices, corner_point: Indices, centers: Floats, normals: Floats
) -> Floats:
    out = np.zeros(len(face_start) - 1)
    for f in prange(len(face_start) - 1):
        away = size = 0.0
        for c in range(face_start[f], face_start[f + 1]):
            h = d = 0.0
            for i in range(3):
                x = positions[corner_point[c], i] - centers[f, i]
                h += x * normals[f, i]
                d += x * x
            away, size = max(away, abs(h)), max(size, d)
        if size > 0.0:
            out[f] = away / np.sqrt(size)
    return out


@once_per_geo
def face_planarity(geo: Geo) -> Floats:
    """Return how bent each face is ``(F,)``: its corners' largest distance from its plane over that from its middle."""
    shape = geo.topology
    return _planarity(geo.positions, shape.face_start, shape.corner_point, face_centers(geo), face_normals(geo))


@once_per_geo
def edge_lengths(geo: Geo) -> Floats:
    """Return the length of each edge in m ``(E,)``."""
    ends = rows_at(geo.positions, geo.topology.edges)
    return row_lengths(ends[:, 1] - ends[:, 0])


@once_per_geo
def edge_centers(geo: Geo) -> Floats:
    """Return the middle of each edge ``(E, 3)``."""
    return rows_at(geo.positions, geo.topology.edges).mean(axis=1)


@once_per_geo
def corner_positions(geo: Geo) -> Floats:
    """Return the position of each corner's point ``(C, 3)``."""
    return rows_at(geo.positions, geo.topology.corner_point)


@once_per_geo
def curve_centers(geo: Geo) -> Floats:
    """Return the mean of each curve's points ``(K, 3)``."""
    return row_means(geo.topology.curve_start, geo.topology.curve_point, geo.positions)


@once_per_geo
def curve_lengths(geo: Geo) -> Floats:
    """Return the length of each curve in m ``(K,)``, the closing segment included."""
    pairs, owner = geo.topology.curve_segments
    ends = geo.positions[pairs]
    lengths = np.linalg.norm(ends[:, 1] - ends[:, 0], axis=1)
    return np.bincount(owner, lengths, geo.topology.curve_count).astype(np.float64)
