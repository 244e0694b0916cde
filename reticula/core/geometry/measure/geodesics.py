"""Distances along the surface from marked points."""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np

from reticula.core.arrays import Flags, Floats, Indices
from reticula.core.geometry.measure.triangles import triangles
from reticula.core.geometry.mesh.adjacency import group_by
from reticula.core.geometry.mesh.geo import Geo, once_per_geo
from reticula.core.jit import inline, inline_making, kernel

__all__ = ["geodesic_distances"]


@inline
def _sift_up(heap: Indices, key: Floats, at: int) -> None:
    while at and key[at] < key[(at - 1) // 2]:
        up = (at - 1) // 2
        key[at], key[up] = key[up], key[at]
        heap[at], heap[up] = heap[up], heap[at]
        at = up


@inline_making
def _push(heap: Indices, key: Floats, count: int, point: int, distance: float) -> tuple[Indices, Floats, int]:
    """Put a point into the heap, which doubles when it is full."""
    if count == len(heap):
        wide, keys = np.empty(2 * count, np.int32), np.empty(2 * count)
        wide[:count], keys[:count] = heap, key
        heap, key = wide, keys
    heap[count], key[count] = point, distance
    _sift_up(heap, key, count)
    return heap, key, count + 1


@inline
def _pop(heap: Indices, key: Floats, count: int) -> None:
    at = 0
    while True:
        child = 2 * at + 1
        if child >= count:
            return
        if child + 1 < count and key[child + 1] < key[child]:
            child += 1
        if key[at] <= key[child]:
            return
        key[at], key[child] = key[child], key[at]
        heap[at], heap[child] = heap[child], heap[at]
        at = child


@inline
def _front_distance(p: Floats, corners: tuple[int, int, int], far: tuple[float, float], point_like: bool) -> float:
    """Distance at the third corner of a front that crosses the edge of the first two, which it reached at ``far``;
    infinite if it does not come that way.
    """
    a, b, c = corners
    da, db = far
    ux, uy, uz = p[b, 0] - p[a, 0], p[b, 1] - p[a, 1], p[b, 2] - p[a, 2]
    vx, vy, vz = p[c, 0] - p[a, 0], p[c, 1] - p[a, 1], p[c, 2] - p[a, 2]
    size = math.sqrt(ux * ux + uy * uy + uz * uz)
    if size == 0.0:
        return np.inf
    x = (ux * vx + uy * vy + uz * vz) / size
    y = math.sqrt(max(vx * vx + vy * vy + vz * vz - x * x, 0.0))
    if point_like:
        sx = (da * da - db * db + size * size) / (2.0 * size)
        below = da * da - sx * sx
        if below < 0.0:
            return np.inf
        sy = -math.sqrt(below)
        cross = sx - (x - sx) * sy / (y - sy) if y > sy else sx
        return math.hypot(x - sx, y - sy) if 0.0 <= cross <= size else np.inf
    slope = (db - da) / size
    if abs(slope) >= 1.0:
        return np.inf
    steep = math.sqrt(1.0 - slope * slope)
    cross = x - y * slope / steep
    return da + slope * x + steep * y if 0.0 <= cross <= size else np.inf


class _Around(NamedTuple):
    """Triangles or lines as rows of ``point (N, k)``, and those at each point as ``start (P+1,)`` and ``item``."""

    point: Indices
    start: Indices
    item: Indices


@kernel
def _fast_march(p: Floats, faces: _Around, ways: _Around, begin: Indices) -> Floats:
    """Fronts from the points in ``begin`` over triangles and along lines."""
    triangle, start, item = faces
    lines, line_start, line_item = ways
    far, origin = np.full(len(p), np.inf), np.full(len(p), -1, np.int32)
    room = 4 * len(p) + 64
    heap, key = np.empty(room, np.int32), np.empty(room)
    count = 0
    for i in begin:
        far[i], origin[i] = 0.0, i
        heap[count], key[count] = i, 0.0
        count += 1
    while count:
        i, d = heap[0], key[0]
        count -= 1
        heap[0], key[0] = heap[count], key[count]
        _pop(heap, key, count)
        if d > far[i]:
            continue
        for k in range(start[i], start[i + 1]):
            t = item[k]
            for step in range(6):
                a = triangle[t, step % 3]
                b, c = triangle[t, (step + 1) % 3], triangle[t, (step + 2) % 3]
                if step >= 3:
                    b, c = c, b
                if a == i:
                    e = far[a] + math.sqrt(
                        (p[c, 0] - p[a, 0]) ** 2 + (p[c, 1] - p[a, 1]) ** 2 + (p[c, 2] - p[a, 2]) ** 2
                    )
                    if far[b] < np.inf:
                        e = min(e, _front_distance(p, (a, b, c), (far[a], far[b]), origin[a] == origin[b]))
                    if e < far[c] * (1.0 - 1e-12):
                        far[c], origin[c] = e, origin[a]
                        heap, key, count = _push(heap, key, count, c, e)
        for k in range(line_start[i], line_start[i + 1]):
            s = line_item[k] // 2
            c = lines[s, 1] if lines[s, 0] == i else lines[s, 0]
            e = far[i] + math.sqrt((p[c, 0] - p[i, 0]) ** 2 + (p[c, 1] - p[i, 1]) ** 2 + (p[c, 2] - p[i, 2]) ** 2)
            if e < far[c] * (1.0 - 1e-12):
                far[c], origin[c] = e, origin[i]
                heap, key, count = _push(heap, key, count, c, e)
    return far


@once_per_geo
def _triangles_at(geo: Geo) -> _Around:
    triangle = np.ascontiguousarray(geo.topology.corner_point[triangles(geo).corner])
    start, item = group_by(triangle.reshape(-1), geo.topology.point_count)
    return _Around(triangle, start, (item // 3).astype(np.int32))


def geodesic_distances(geo: Geo, begin: Flags) -> Floats:
    """Return the length of the shortest way over faces, edges and curves from the points in ``begin (P,)``, m ``(P,)``.

    Infinite where no way leads. Fronts march over the triangles (Kimmel & Sethian, "Computing geodesic paths on
    manifolds", PNAS 95(15), 1998); where both ends of an edge were reached from one point, its image is unfolded into
    the plane (Novotni & Klein, "Computing geodesic distances on triangular meshes", WSCG 2002), which is exact on flat
    parts.
    """
    lines = np.ascontiguousarray(np.concatenate([geo.topology.edges, geo.topology.curve_segments[0]]).astype(np.int32))
    line_start, line_item = group_by(lines.reshape(-1), geo.topology.point_count)
    return _fast_march(
        geo.positions, _triangles_at(geo), _Around(lines, line_start, line_item), np.flatnonzero(begin).astype(np.int32)
    )
