"""Curvature at points and angles at edges, from the triangles of a mesh."""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np

from reticula.core.arrays import Flags, Floats, Indices
from reticula.core.geometry.measure.areas import area_vectors, face_normals, point_normals
from reticula.core.geometry.measure.triangles import triangles
from reticula.core.geometry.mesh.geo import Geo, once_per_geo
from reticula.core.jit import inline, kernel
from reticula.core.rows import row_dots, row_lengths, rows_at

__all__ = ["edge_angles", "gauss_curvatures", "mean_curvatures", "mixed_areas"]


@inline
def _measure(p: Floats, triangle: Indices, t: int, edge: Floats, dot: Floats) -> float:
    """Write the edge across each corner ``edge (3, 3)`` and the product of the two at each corner ``dot (3,)``; return
    twice the area.
    """
    for k in range(3):
        one, other = triangle[t, (k + 2) % 3], triangle[t, (k + 1) % 3]
        for w in range(3):
            edge[k, w] = p[one, w] - p[other, w]
    x = edge[0, 1] * edge[1, 2] - edge[0, 2] * edge[1, 1]
    y = edge[0, 2] * edge[1, 0] - edge[0, 0] * edge[1, 2]
    z = edge[0, 0] * edge[1, 1] - edge[0, 1] * edge[1, 0]
    for k in range(3):
        a, b = (k + 2) % 3, (k + 1) % 3
        dot[k] = -(edge[a, 0] * edge[b, 0] + edge[a, 1] * edge[b, 1] + edge[a, 2] * edge[b, 2])
    return math.sqrt(x * x + y * y + z * z)


@kernel
def _areas_and_ways(p: Floats, triangle: Indices) -> tuple[Floats, Floats]:
    """Mixed area, and the sum of cotangent-weighted differences to the neighbours, per point."""
    area, away = np.zeros(len(p)), np.zeros((len(p), 3))
    edge, dot, cot = np.empty((3, 3)), np.empty(3), np.empty(3)
    for t in range(len(triangle)):
        twice = _measure(p, triangle, t, edge, dot)
        if twice == 0.0:
            continue
        for k in range(3):
            cot[k] = dot[k] / twice
        blunt = cot[0] < 0.0 or cot[1] < 0.0 or cot[2] < 0.0
        for k in range(3):
            i, a, b = triangle[t, k], (k + 1) % 3, (k + 2) % 3
            if not blunt:
                for w in range(3):
                    area[i] += (edge[a, w] * edge[a, w] * cot[a] + edge[b, w] * edge[b, w] * cot[b]) / 8.0
            elif cot[k] < 0.0:
                area[i] += twice / 4.0
            else:
                area[i] += twice / 8.0
            for w in range(3):
                away[i, w] += cot[b] * -edge[b, w] + cot[a] * edge[a, w]
    return area, away


@kernel
def _angles(p: Floats, triangle: Indices) -> Floats:
    """Sum of the angles of the triangles around each point."""
    out = np.zeros(len(p))
    edge, dot = np.empty((3, 3)), np.empty(3)
    for t in range(len(triangle)):
        twice = _measure(p, triangle, t, edge, dot)
        if twice > 0.0:
            for k in range(3):
                out[triangle[t, k]] += math.atan2(twice, dot[k])
    return out


@once_per_geo
def _sums(geo: Geo) -> tuple[Floats, Floats]:
    return _areas_and_ways(geo.positions, rows_at(geo.topology.corner_point, triangles(geo).corner))


@once_per_geo
def mixed_areas(geo: Geo) -> Floats:
    """Return the share of the surface that belongs to each point, m² ``(P,)``; they add up to the whole area."""
    return _sums(geo)[0]


@once_per_geo
def gauss_curvatures(geo: Geo) -> Floats:
    """Return the Gaussian curvature at each point in 1/m² ``(P,)``: the angle missing to a full turn, over the
    point's area.

    At a border point, to half a turn. Meyer, Desbrun, Schröder & Barr, "Discrete differential-geometry operators for
    triangulated 2-manifolds", Visualization and Mathematics III, 2003, section 4.
    """
    area = _sums(geo)[0]
    angle = _angles(geo.positions, rows_at(geo.topology.corner_point, triangles(geo).corner))
    full = np.where(geo.topology.border_points, math.pi, 2.0 * math.pi)
    return np.divide(full - angle, area, out=np.zeros_like(area), where=area > 0)


@once_per_geo
def mean_curvatures(geo: Geo) -> Floats:
    """Return the mean curvature at each point in 1/m ``(P,)``, above 0 where the surface bulges out; 0 on borders.

    Meyer, Desbrun, Schröder & Barr 2003, section 3 (cotangents over mixed areas).
    """
    area, away = _sums(geo)
    vector = np.divide(away, 2.0 * area[:, None], out=np.zeros_like(away), where=area[:, None] > 0)
    size = row_lengths(vector) / 2.0
    sign = np.sign(row_dots(vector, point_normals(geo)))
    return np.where(geo.topology.border_points, 0.0, sign * size)


class _Sides(NamedTuple):
    """The corners at each edge as ``start (E+1,)`` and ``corner``, and the face and point of each corner ``(C,)``."""

    start: Indices
    corner: Indices
    face: Indices
    point: Indices


@kernel
def _edge_angles(edges: Indices, sides: _Sides, p: Floats, n: Floats, ok: Flags) -> Floats:
    """Angles at the edges between faces with normals ``n (F, 3)``, those in ``ok (F,)`` alone."""
    start, corner, corner_face, point = sides
    out = np.zeros(len(edges))
    for e in range(len(edges)):
        if start[e + 1] - start[e] != 2:
            continue
        c, d = corner[start[e]], corner[start[e] + 1]
        f, g = corner_face[c], corner_face[d]
        if not ok[f] or not ok[g]:
            continue
        q, r = edges[e, 0], edges[e, 1]
        if point[c] != q:
            q, r = r, q
        u, v, w = p[r, 0] - p[q, 0], p[r, 1] - p[q, 1], p[r, 2] - p[q, 2]
        sign = 1.0 if point[c] != point[d] else -1.0
        a, b = n[f], n[g]
        i, j, k = sign * b[0], sign * b[1], sign * b[2]
        x, y, z = a[1] * k - a[2] * j, a[2] * i - a[0] * k, a[0] * j - a[1] * i
        size = math.sqrt(u * u + v * v + w * w)
        if size > 0.0:
            out[e] = math.degrees(math.atan2((x * u + y * v + z * w) / size, a[0] * i + a[1] * j + a[2] * k))
    return out


@once_per_geo
def edge_angles(geo: Geo) -> Floats:
    """Return the angle by which the surface bends at each edge, in degrees ``(E,)``: 0 where it is flat, above 0 on a
    ridge.

    0 at borders, where more than two faces meet, and beside faces without area.
    """
    shape = geo.topology
    sides = _Sides(*shape.edge_corners, shape.corner_face, shape.corner_point)
    ok = row_dots(area_vectors(geo), area_vectors(geo)) > 0
    return _edge_angles(shape.edges, sides, geo.positions, face_normals(geo), ok)
