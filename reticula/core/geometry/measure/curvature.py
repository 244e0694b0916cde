"""Curvature at points and angles at edges, from the triangles of a mesh."""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np

from reticula.core.arrays import Flags, Floats, Indices
from reticula.core.geometry.measure.areas import area_vectors, face_normals, point_normals
from reticula.core.geometry.measure.triangles import triangles
from reticula.core.geometry.mesh.geo import Geo, once_per_geo
from reticula.core.jit import kernel

__all__ = ["edge_angles", "gauss_curvatures", "mean_curvatures", "mixed_areas"]


@kernel
def _gather(p: Floats, triangle: Indices) -> tuple[Floats, Floats, Floats]:
    """Mixed area, sum of angles, and the sum of cotangent-weighted differences to the neighbours, per point."""
    area, angle, away = np.zeros(len(p)), np.zeros(len(p)), np.zeros((len(p), 3))
    for t in range(len(triangle)):
        edge, cot, corner = np.empty((3, 3)), np.zeros(3), np.zeros(3)
        for k in range(3):
            edge[k] = p[triangle[t, (k + 2) % 3]] - p[triangle[t, (k + 1) % 3]]
        n = np.cross(edge[0], edge[1])
        twice = math.sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2])
        if twice == 0.0:
            continue
        for k in range(3):
            u, v = edge[(k + 2) % 3], -edge[(k + 1) % 3]
            d = u[0] * v[0] + u[1] * v[1] + u[2] * v[2]
            cot[k], corner[k] = d / twice, math.atan2(twice, d)
        blunt = cot[0] < 0.0 or cot[1] < 0.0 or cot[2] < 0.0
        for k in range(3):
            i, a, b = triangle[t, k], (k + 1) % 3, (k + 2) % 3
            angle[i] += corner[k]
            if not blunt:
                for w in range(3):
                    area[i] += (edge[a, w] * edge[a, w] * cot[a] + edge[b, w] * edge[b, w] * cot[b]) / 8.0
            elif cot[k] < 0.0:
                area[i] += twice / 4.0
            else:
                area[i] += twice / 8.0
            for w in range(3):
                away[i, w] += cot[b] * -edge[b, w] + cot[a] * edge[a, w]
    return area, angle, away


@once_per_geo
def _sums(geo: Geo) -> tuple[Floats, Floats, Floats]:
    cut = triangles(geo)
    return _gather(geo.positions, geo.topology.corner_point[cut.corner])


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
    area, angle, _ = _sums(geo)
    full = np.where(geo.topology.border_points, math.pi, 2.0 * math.pi)
    return np.divide(full - angle, area, out=np.zeros_like(area), where=area > 0)


@once_per_geo
def mean_curvatures(geo: Geo) -> Floats:
    """Return the mean curvature at each point in 1/m ``(P,)``, above 0 where the surface bulges out; 0 on borders.

    Meyer, Desbrun, Schröder & Barr 2003, section 3 (cotangents over mixed areas).
    """
    area, _, away = _sums(geo)
    vector = np.divide(away, 2.0 * area[:, None], out=np.zeros_like(away), where=area[:, None] > 0)
    size = np.linalg.norm(vector, axis=1) / 2.0
    sign = np.sign(np.einsum("ij,ij->i", vector, point_normals(geo)))
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
        along = p[edges[e, 1]] - p[edges[e, 0]]
        if point[c] != edges[e, 0]:
            along = -along
        other = n[g] if point[c] != point[d] else -n[g]
        turn = np.cross(n[f], other)
        size = math.sqrt((along * along).sum())
        if size > 0.0:
            out[e] = math.degrees(math.atan2((turn * along).sum() / size, (n[f] * other).sum()))
    return out


@once_per_geo
def edge_angles(geo: Geo) -> Floats:
    """Return the angle by which the surface bends at each edge, in degrees ``(E,)``: 0 where it is flat, above 0 on a
    ridge.

    0 at borders, where more than two faces meet, and beside faces without area.
    """
    shape = geo.topology
    sides = _Sides(*shape.edge_corners, shape.corner_face, shape.corner_point)
    ok = np.einsum("ij,ij->i", area_vectors(geo), area_vectors(geo)) > 0
    return _edge_angles(shape.edges, sides, geo.positions, face_normals(geo), ok)
