"""Questions to a surface: the closest place on it, and what a ray hits."""

from __future__ import annotations

import math
from functools import cached_property
from typing import NamedTuple

import numpy as np

from reticula.core.arrays import Flags, Floats, Indices, sealed
from reticula.core.errors import GeometryError
from reticula.core.geometry.measure.triangles import triangles
from reticula.core.geometry.mesh.geo import Geo, once_per_geo
from reticula.core.jit import inline, parallel_kernel, prange
from reticula.core.rows import unit
from reticula.core.spans import span
from reticula.core.spatial.kdtree import Place, Scratch, push_children
from reticula.core.spatial.nearest_corner import FaceCorners, nearest_corners
from reticula.core.spatial.query_order import query_order
from reticula.core.spatial.tree import Tree, build_tree

__all__ = [
    "STACK",
    "Places",
    "Ray",
    "Surface",
    "closest_in",
    "closest_one",
    "closest_weights",
    "enters",
    "hit_one",
    "invert",
    "surface_of",
]

STACK = 160
CHUNK = 256
"""Queries that share one stack; they are the pieces in which threads take work."""


class Places(NamedTuple):
    """Places on a surface, one per query.

    ``triangle (N,)`` is -1 where nothing was found; ``weight (N, 3)`` are barycentric weights of its corners;
    ``position (N, 3)`` and ``distance (N,)`` are in m (NaN-free: 0 where nothing was found).
    """

    triangle: Indices
    weight: Floats
    position: Floats
    distance: Floats

    @property
    def found(self) -> Flags:
        return self.triangle >= 0


@inline
def _box_distance(box: Floats, at: Place) -> float:
    x, y, z = at
    dx = max(box[0] - x, 0.0, x - box[3])
    dy = max(box[1] - y, 0.0, y - box[4])
    dz = max(box[2] - z, 0.0, z - box[5])
    return dx * dx + dy * dy + dz * dz


@inline
def closest_weights(t: Floats, px: float, py: float, pz: float) -> tuple[float, float, float]:
    """Barycentric weights of the closest place on a triangle. Ericson, "Real-Time Collision Detection", 5.1.5."""
    abx, aby, abz = t[1, 0] - t[0, 0], t[1, 1] - t[0, 1], t[1, 2] - t[0, 2]
    acx, acy, acz = t[2, 0] - t[0, 0], t[2, 1] - t[0, 1], t[2, 2] - t[0, 2]
    apx, apy, apz = px - t[0, 0], py - t[0, 1], pz - t[0, 2]
    d1 = abx * apx + aby * apy + abz * apz
    d2 = acx * apx + acy * apy + acz * apz
    if d1 <= 0.0 and d2 <= 0.0:
        return 1.0, 0.0, 0.0
    bpx, bpy, bpz = px - t[1, 0], py - t[1, 1], pz - t[1, 2]
    d3 = abx * bpx + aby * bpy + abz * bpz
    d4 = acx * bpx + acy * bpy + acz * bpz
    if d3 >= 0.0 and d4 <= d3:
        return 0.0, 1.0, 0.0
    vc = d1 * d4 - d3 * d2
    if vc <= 0.0 and d1 >= 0.0 and d3 <= 0.0 and d1 != d3:
        v = d1 / (d1 - d3)
        return 1.0 - v, v, 0.0
    cpx, cpy, cpz = px - t[2, 0], py - t[2, 1], pz - t[2, 2]
    d5 = abx * cpx + aby * cpy + abz * cpz
    d6 = acx * cpx + acy * cpy + acz * cpz
    if d6 >= 0.0 and d5 <= d6:
        return 0.0, 0.0, 1.0
    vb = d5 * d2 - d1 * d6
    if vb <= 0.0 and d2 >= 0.0 and d6 <= 0.0 and d2 != d6:
        w = d2 / (d2 - d6)
        return 1.0 - w, 0.0, w
    va = d3 * d6 - d5 * d4
    if va <= 0.0 and d4 - d3 >= 0.0 and d5 - d6 >= 0.0 and (d4 - d3) + (d5 - d6) > 0.0:
        w = (d4 - d3) / ((d4 - d3) + (d5 - d6))
        return 0.0, 1.0 - w, w
    total = va + vb + vc
    if total == 0.0:
        return 1.0, 0.0, 0.0
    return 1.0 - vb / total - vc / total, vb / total, vc / total


@inline
def _blend(t: Floats, a: float, b: float, c: float, w: int) -> float:
    return a * t[0, w] + b * t[1, w] + c * t[2, w]


@inline
def closest_one(tree: Tree, at: Place, reach: float, scratch: Scratch, out: Floats) -> tuple[np.int32, float]:
    """Return the closest triangle of one query, -1 beyond ``reach``, and its distance.

    ``out (6,)`` gets weights and position.
    """
    box, first, size, corner, order = tree
    stack, gap = scratch
    x, y, z = at
    best = reach * reach if reach >= 0.0 else -1.0
    found = np.int32(-1)
    stack[0], gap[0] = 0, _box_distance(box[0], at)
    depth = 1
    while depth:
        depth -= 1
        node = stack[depth]
        if gap[depth] > best:
            continue
        if size[node]:
            for i in range(first[node], first[node] + size[node]):
                t = corner[i]
                a, b, c = closest_weights(t, x, y, z)
                cx, cy, cz = _blend(t, a, b, c, 0), _blend(t, a, b, c, 1), _blend(t, a, b, c, 2)
                d = (cx - x) ** 2 + (cy - y) ** 2 + (cz - z) ** 2
                if d < best or (d == best and (found < 0 or order[i] < found)):
                    best, found = d, order[i]
                    out[0], out[1], out[2], out[3], out[4], out[5] = a, b, c, cx, cy, cz
            continue
        left = first[node]
        gap_of = (_box_distance(box[left], at), _box_distance(box[left + 1], at))
        depth = push_children(scratch, depth, left, gap_of, best)
    return found, math.sqrt(best) if found >= 0 else 0.0


@inline
def _keep(out: Floats, weight: Floats, position: Floats, q: int) -> None:
    for w in range(3):
        weight[q, w], position[q, w] = out[w], out[w + 3]


@parallel_kernel
def _closest(tree: Tree, points: Floats, reach: float, order: Indices) -> Places:
    count = len(points)
    triangle, distance = np.full(count, -1, np.int32), np.zeros(count)
    weight, position = np.zeros((count, 3)), np.zeros((count, 3))
    for chunk in prange((count + CHUNK - 1) // CHUNK):
        scratch, out = Scratch(np.empty(STACK, np.int32), np.empty(STACK)), np.empty(6)
        for k in range(chunk * CHUNK, min(chunk * CHUNK + CHUNK, count)):
            q, at = order[k], (points[k, 0], points[k, 1], points[k, 2])
            triangle[q], distance[q] = closest_one(tree, at, reach, scratch, out)
            if triangle[q] >= 0:
                _keep(out, weight, position, q)
    return Places(triangle, weight, position, distance)


class Ray(NamedTuple):
    """A ray from ``origin (3,)`` along the unit vector ``direction (3,)``, seen between ``begin`` and ``reach``."""

    origin: Floats
    direction: Floats
    begin: float
    reach: float


@inline
def enters(box: Floats, node: int, o: Floats, inverse: Floats, far: float) -> float:
    """Distance along a ray at which it enters a box, or infinity; ``inverse`` is 1 over its direction, infinite for
    0.
    """
    begin, end = 0.0, far
    for w in range(3):
        v = inverse[w]
        if v == np.inf:
            if o[w] < box[node, w] or o[w] > box[node, w + 3]:
                return np.inf
            continue
        a, b = (box[node, w] - o[w]) * v, (box[node, w + 3] - o[w]) * v
        if a > b:
            a, b = b, a
        begin, end = max(begin, a), min(end, b * (1.0 + 4e-16))
    return begin if begin <= end else np.inf


@inline
def invert(d: Floats, inverse: Floats) -> None:
    """Write 1 over a direction; infinity, without sign, for 0."""
    for w in range(3):
        inverse[w] = 1.0 / d[w] if d[w] != 0.0 else np.inf


@inline
def hit_one(tree: Tree, ray: Ray, scratch: Scratch, inverse: Floats, out: Floats) -> tuple[np.int32, float]:
    """Return the first triangle that a ray hits, -1 for none, and how far away.

    ``inverse (3,)`` is room for 1 over the direction; ``out (6,)`` gets weights and position.
    """
    box, first, size, corner, order = tree
    o, d, begin, reach = ray
    stack, gap = scratch
    kz = 0
    for w in range(1, 3):
        if abs(d[w]) > abs(d[kz]):
            kz = w
    if d[kz] == 0.0:
        return np.int32(-1), 0.0
    kx, ky = (kz + 1) % 3, (kz + 2) % 3
    if d[kz] < 0.0:
        kx, ky = ky, kx
    sx, sy, sz = d[kx] / d[kz], d[ky] / d[kz], 1.0 / d[kz]
    invert(d, inverse)
    best = reach
    found = np.int32(-1)
    stack[0], gap[0] = 0, enters(box, 0, o, inverse, best)
    depth = 1
    while depth:
        depth -= 1
        node = stack[depth]
        if gap[depth] == np.inf or gap[depth] > best:
            continue
        if size[node]:
            for i in range(first[node], first[node] + size[node]):
                t = corner[i]
                ax, ay, az = t[0, kx] - o[kx], t[0, ky] - o[ky], t[0, kz] - o[kz]
                bx, by, bz = t[1, kx] - o[kx], t[1, ky] - o[ky], t[1, kz] - o[kz]
                cx, cy, cz = t[2, kx] - o[kx], t[2, ky] - o[ky], t[2, kz] - o[kz]
                ax, ay = ax - sx * az, ay - sy * az
                bx, by = bx - sx * bz, by - sy * bz
                cx, cy = cx - sx * cz, cy - sy * cz
                u, v, w3 = cx * by - cy * bx, ax * cy - ay * cx, bx * ay - by * ax
                if (u < 0.0 or v < 0.0 or w3 < 0.0) and (u > 0.0 or v > 0.0 or w3 > 0.0):
                    continue
                total = u + v + w3
                if total == 0.0:
                    continue
                s = sz * (u * az + v * bz + w3 * cz) / total
                if s < begin or s > best or (s == best and found >= 0 and order[i] > found):
                    continue
                best, found = s, order[i]
                out[0], out[1], out[2] = u / total, v / total, w3 / total
            continue
        left = first[node]
        near, far = left, left + 1
        near_gap, far_gap = enters(box, near, o, inverse, best), enters(box, far, o, inverse, best)
        if far_gap < near_gap:
            near, far, near_gap, far_gap = far, near, far_gap, near_gap
        if far_gap < np.inf:
            stack[depth], gap[depth] = far, far_gap
            depth += 1
        if near_gap < np.inf:
            stack[depth], gap[depth] = near, near_gap
            depth += 1
    if found >= 0:
        for w in range(3):
            out[w + 3] = o[w] + best * d[w]
    return found, best if found >= 0 else 0.0


@parallel_kernel
def _first_hit(tree: Tree, origins: Floats, directions: Floats, begin: float, reach: float, order: Indices) -> Places:
    count = len(origins)
    triangle, distance = np.full(count, -1, np.int32), np.zeros(count)
    weight, position = np.zeros((count, 3)), np.zeros((count, 3))
    for chunk in prange((count + CHUNK - 1) // CHUNK):
        scratch, out = Scratch(np.empty(STACK, np.int32), np.empty(STACK)), np.empty(6)
        inverse = np.empty(3)
        for k in range(chunk * CHUNK, min(chunk * CHUNK + CHUNK, count)):
            q, ray = order[k], Ray(origins[k], directions[k], begin, reach)
            triangle[q], distance[q] = hit_one(tree, ray, scratch, inverse, out)
            if triangle[q] >= 0:
                _keep(out, weight, position, q)
    return Places(triangle, weight, position, distance)


def closest_in(tree: Tree, points: Floats, reach: float = math.inf) -> Places:
    """Return the closest place on the triangles of a tree to each of ``points (N, 3)``, if one lies within ``reach``
    m.
    """
    rows = sealed(points)
    order = query_order(rows)
    return _closest(tree, order.of(rows), float(reach), order.number)


class Surface:
    """The faces of a geometry, ready to be asked. Make it with :func:`surface_of`."""

    def __init__(self, geo: Geo) -> None:
        if not geo.topology.face_count:
            raise GeometryError("there are no faces to ask; give a mesh with faces")
        cut = triangles(geo)
        self.corner = cut.corner
        self.face = cut.face
        self.point = geo.topology.corner_point[cut.corner]
        self.tree: Tree = build_tree(geo.positions[self.point])
        shape = geo.topology
        self.corners = FaceCorners(self.face, shape.face_start, shape.corner_point, geo.positions)

    def closest(self, points: Floats, reach: float = math.inf) -> Places:
        """Return the closest place on the surface to each of ``points (N, 3)``, if one lies within ``reach`` m.

        Where several are equally close, the triangle with the lowest number is taken.
        """
        return closest_in(self.tree, points, reach)

    def ray(self, origins: Floats, directions: Floats, reach: float = math.inf, begin: float = 0.0) -> Places:
        """Return the first place that rays hit between ``begin`` and ``reach`` m from their origins, either side.

        ``origins`` and ``directions`` are ``(N, 3)``; directions need not have length 1, a direction of 0 hits
        nothing. Rays do not slip between triangles: Woop, Benthin & Wald, "Watertight ray/triangle intersection",
        JCGT 2(1), 2013.
        """
        rows = sealed(origins)
        order = query_order(rows)
        ways = unit(order.of(sealed(directions)))
        return _first_hit(self.tree, order.of(rows), ways, float(begin), float(reach), order.number)

    def nearest_corner(self, places: Places) -> Indices:
        """Return the corner ``(N,)`` of the face at each place that is nearest to it; any if nothing is found."""
        return nearest_corners(self.corners, np.maximum(places.triangle, 0), places.position)

    def normals(self, places: Places) -> Floats:
        """Return the unit normal of the triangle at each place ``(N, 3)``; 0 where nothing was found."""
        return _rows_or_zero(self.triangle_normals, places.triangle)

    @cached_property
    def triangle_normals(self) -> Floats:
        """Unit normals of the triangles in their own order ``(T, 3)``; 0 for those without area."""
        at = self.tree_positions()
        return unit(np.cross(at[:, 1] - at[:, 0], at[:, 2] - at[:, 0]))

    def tree_positions(self) -> Floats:
        """Return the corner positions of the triangles in their own order ``(T, 3, 3)``."""
        out = np.empty_like(self.tree.corner)
        out[self.tree.order] = self.tree.corner
        return out


@parallel_kernel
def _rows_or_zero(values: Floats, number: Indices) -> Floats:
    """Rows ``(N, 3)`` of ``values``; zeros where the number is below 0."""
    out = np.zeros((len(number), 3))
    for i in prange(len(number)):
        if number[i] >= 0:
            for k in range(3):
                out[i, k] = values[number[i], k]
    return out


@once_per_geo
def surface_of(geo: Geo) -> Surface:
    """Return the surface of a geometry, built once; raise GeometryError if it has no faces."""
    with span("search tree"):
        return Surface(geo)
