"""Smoothing rules of subdivision, applied straight from the topology: no matrix is stored.

One application makes the values of all new points from those of the old ones. Sharpness follows DeRose, Kass & Truong,
"Subdivision surfaces in character animation", SIGGRAPH 1998: a rule that is sharp by a part blends with the smooth one.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats, Indices, flat_rows
from reticula.core.geometry.mesh.topology import Topology
from reticula.core.jit import parallel_kernel, prange

__all__ = ["CatmullClark", "CornerQuads", "Creases", "Flat", "Loop", "Reordered", "creases"]


@dataclass(frozen=True, eq=False)
class Creases:
    """How sharp each edge ``(E,)`` and point is, 0 to 1.

    A point stays by the share ``hold (P,)``; of the rest, it follows the crease to its two neighbours ``along (P, 2)``
    by ``crease (P,)`` and the smooth surface by what is left.
    """

    edge: Floats
    hold: Floats
    crease: Floats
    along: Indices


@parallel_kernel
def _point_rules(
    sharp: Floats, edges: Indices, start: Indices, spoke: Indices, corner_start: Indices, point_sharp: Floats
) -> tuple[Floats, Floats, Indices]:
    count = len(start) - 1
    hold, crease, along = np.zeros(count), np.zeros(count), np.zeros((count, 2), np.int32)
    for p in prange(count):
        creased = 0
        total = 0.0
        for k in range(start[p], start[p + 1]):
            e = spoke[k]
            if sharp[e] > 0.0:
                if creased < 2:
                    along[p, creased] = edges[e, 0] + edges[e, 1] - p
                creased += 1
                total += min(sharp[e], 1e6)
        corners = corner_start[p + 1] - corner_start[p]
        if corners == 0:
            hold[p] = 1.0
        elif creased == 2:
            crease[p] = min(total / 2.0, 1.0)
        elif creased > 2:
            hold[p] = min(total / creased, 1.0)
        elif corners != start[p + 1] - start[p]:
            hold[p] = 1.0
        hold[p] = max(hold[p], min(point_sharp[p], 1.0))
    return hold, crease, along


def creases(shape: Topology, edge_sharp: Floats, point_sharp: Floats) -> Creases:
    """Work out the rules from the sharpness of edges ``(E,)`` and points ``(P,)``; borders are infinitely sharp.

    Edges with more than two faces count as borders; points where the faces do not form one fan, or more than two
    creases meet, are corners.
    """
    sharp = np.where(shape.edge_face_count != 2, np.inf, edge_sharp)
    hold, crease, along = _point_rules(sharp, shape.edges, *shape.point_edges, shape.point_corners[0], point_sharp)
    return Creases(np.minimum(sharp, 1.0), hold, crease, along)


class _Mesh(NamedTuple):
    """What the rules gather along: the corners at each edge, the edges and corners at each point, and per corner its
    face, its point and the corner before it.
    """

    edges: Indices
    edge_start: Indices
    edge_corner: Indices
    spoke_start: Indices
    spoke: Indices
    corner_start: Indices
    corner: Indices
    corner_face: Indices
    corner_point: Indices
    before: Indices


class _PointRules(NamedTuple):
    """Per point, how much it is held, how much it lies on a crease, and along which two points: see
    :class:`Creases`.
    """

    hold: Floats
    crease: Floats
    along: Indices


def _mesh_of(shape: Topology) -> _Mesh:
    return _Mesh(
        shape.edges,
        *shape.edge_corners,
        *shape.point_edges,
        *shape.point_corners,
        shape.corner_face,
        shape.corner_point,
        shape.corner_previous,
    )


@parallel_kernel
def _face_means(values: Floats, face_start: Indices, corner_point: Indices, out: Floats, begin: int) -> None:
    width = values.shape[1]
    for f in prange(len(face_start) - 1):
        first, last = face_start[f], face_start[f + 1]
        for w in range(width):
            out[begin + f, w] = 0.0
        for c in range(first, last):
            for w in range(width):
                out[begin + f, w] += values[corner_point[c], w]
        for w in range(width):
            out[begin + f, w] /= last - first


@parallel_kernel
def _catmull_clark_edges(values: Floats, mesh: _Mesh, sharp: Floats, out: Floats) -> None:
    edges, edge_start, edge_corner, corner_face = mesh.edges, mesh.edge_start, mesh.edge_corner, mesh.corner_face
    count, points = len(edges), len(values)
    for e in prange(count):
        a, b = edges[e, 0], edges[e, 1]
        s = sharp[e]
        for w in range(values.shape[1]):
            middle = 0.5 * (values[a, w] + values[b, w])
            if s < 1.0:
                f, g = corner_face[edge_corner[edge_start[e]]], corner_face[edge_corner[edge_start[e] + 1]]
                faces = 0.5 * (out[points + count + f, w] + out[points + count + g, w])
                middle = s * middle + (1.0 - s) * 0.5 * (middle + faces)
            out[points + e, w] = middle


@parallel_kernel
def _catmull_clark_points(values: Floats, mesh: _Mesh, rules: _PointRules, out: Floats) -> None:
    edges, edge_start, spoke = mesh.edges, mesh.spoke_start, mesh.spoke
    corner_start, corner, corner_face = mesh.corner_start, mesh.corner, mesh.corner_face
    hold, crease, along = rules
    first_face = len(values) + len(edges)
    for p in prange(len(values)):
        h, c = hold[p], crease[p]
        n = float(edge_start[p + 1] - edge_start[p])
        for w in range(values.shape[1]):
            out[p, w] = 0.0
        if h < 1.0 and c < 1.0:
            for k in range(edge_start[p], edge_start[p + 1]):
                other = edges[spoke[k], 0] + edges[spoke[k], 1] - p
                for w in range(values.shape[1]):
                    out[p, w] += values[other, w]
            for k in range(corner_start[p], corner_start[p + 1]):
                face = first_face + corner_face[corner[k]]
                for w in range(values.shape[1]):
                    out[p, w] += out[face, w]
        for w in range(values.shape[1]):
            own = values[p, w]
            made = own
            if h < 1.0:
                line = 0.75 * own + 0.125 * (values[along[p, 0], w] + values[along[p, 1], w])
                smooth = own * (n - 2.0) / n + out[p, w] / (n * n) if c < 1.0 else line
                made = h * own + (1.0 - h) * (c * line + (1.0 - c) * smooth)
            out[p, w] = made


@dataclass(frozen=True, eq=False)
class CatmullClark:
    """New points: the old ones, one per edge, one per face."""

    shape: Topology
    rules: Creases

    def apply(self, values: AnyArray) -> Floats:
        """Return values of the new points ``(P + E + F, ...)``."""
        shape, rules = self.shape, self.rules
        flat = flat_rows(values)
        out = np.empty((shape.point_count + shape.edge_count + shape.face_count, flat.shape[1]))
        _face_means(flat, shape.face_start, shape.corner_point, out, shape.point_count + shape.edge_count)
        mesh = _mesh_of(shape)
        _catmull_clark_edges(flat, mesh, rules.edge, out)
        _catmull_clark_points(flat, mesh, _PointRules(rules.hold, rules.crease, rules.along), out)
        return out.reshape(len(out), *values.shape[1:])


@parallel_kernel
def _loop(values: Floats, mesh: _Mesh, sharp: Floats, rules: _PointRules) -> Floats:
    edges, edge_start, edge_corner = mesh.edges, mesh.edge_start, mesh.edge_corner
    before, corner_point, spoke_start, spoke = mesh.before, mesh.corner_point, mesh.spoke_start, mesh.spoke
    hold, crease, along = rules
    points, width = values.shape
    out = np.empty((points + len(edges), width))
    for e in prange(len(edges)):
        a, b = edges[e, 0], edges[e, 1]
        s = sharp[e]
        last = edge_start[e + 1] - 1
        c, d = corner_point[before[edge_corner[edge_start[e]]]], corner_point[before[edge_corner[last]]]
        for w in range(width):
            middle = 0.5 * (values[a, w] + values[b, w])
            if s < 1.0:
                smooth = 0.375 * (values[a, w] + values[b, w]) + 0.125 * (values[c, w] + values[d, w])
                middle = s * middle + (1.0 - s) * smooth
            out[points + e, w] = middle
    for p in prange(points):
        h, c = hold[p], crease[p]
        n = spoke_start[p + 1] - spoke_start[p]
        beta = 0.1875 if n == 3 else 0.375 / max(n, 1)
        for w in range(width):
            out[p, w] = 0.0
        if h < 1.0 and c < 1.0:
            for k in range(spoke_start[p], spoke_start[p + 1]):
                other = edges[spoke[k], 0] + edges[spoke[k], 1] - p
                for w in range(width):
                    out[p, w] += values[other, w]
        for w in range(width):
            own = values[p, w]
            made = own
            if h < 1.0:
                line = 0.75 * own + 0.125 * (values[along[p, 0], w] + values[along[p, 1], w])
                smooth = (1.0 - n * beta) * own + beta * out[p, w] if c < 1.0 else line
                made = h * own + (1.0 - h) * (c * line + (1.0 - c) * smooth)
            out[p, w] = made
    return out


@dataclass(frozen=True, eq=False)
class Loop:
    """New points of a triangle mesh: the old ones and one per edge, with the weights 3/8n (3/16 for n = 3).

    Loop, "Smooth subdivision surfaces based on triangles", 1987; weights after Warren, "Subdivision methods for
    geometric design", 1995.
    """

    shape: Topology
    rules: Creases

    def apply(self, values: AnyArray) -> Floats:
        """Return values of the new points ``(P + E, ...)``."""
        shape, rules = self.shape, self.rules
        flat = flat_rows(values)
        made = _loop(flat, _mesh_of(shape), rules.edge, _PointRules(rules.hold, rules.crease, rules.along))
        return made.reshape(len(made), *values.shape[1:])


@dataclass(frozen=True, eq=False)
class Flat:
    """The same new points without any smoothing: ends, middles of edges, and middles of faces if ``faces``."""

    shape: Topology
    faces: bool

    def apply(self, values: AnyArray) -> Floats:
        """Return values of the new points."""
        ends = values[self.shape.edges]
        parts = [values, 0.5 * (ends[:, 0] + ends[:, 1])]
        if self.faces:
            flat = flat_rows(values)
            means = np.empty((self.shape.face_count, flat.shape[1]))
            _face_means(flat, self.shape.face_start, self.shape.corner_point, means, 0)
            parts.append(means.reshape(len(means), *values.shape[1:]))
        return np.concatenate(parts)


@dataclass(frozen=True, eq=False)
class Reordered:
    """Another blend with its results in another order: ``index (N,)`` into them."""

    blend: CatmullClark | Loop
    index: AnyArray

    def apply(self, values: AnyArray) -> Floats:
        """Return the values in the new order."""
        return self.blend.apply(values)[self.index]


@parallel_kernel
def _corner_quads(values: Floats, face_start: Indices, triangles: bool) -> Floats:
    width = values.shape[1]
    out = np.empty((4 * len(values), width))
    for f in prange(len(face_start) - 1):
        first, last = face_start[f], face_start[f + 1]
        for w in range(width):
            total = 0.0
            for c in range(first, last):
                total += values[c, w]
            for c in range(first, last):
                before = values[c - 1 if c > first else last - 1, w]
                after = values[c + 1 if c + 1 < last else first, w]
                own = values[c, w]
                if triangles:
                    k = 4 * first + 3 * (c - first)
                    out[k, w], out[k + 1, w], out[k + 2, w] = own, 0.5 * (own + after), 0.5 * (own + before)
                    out[4 * first + 9 + c - first, w] = 0.5 * (own + after)
                else:
                    k = 4 * c
                    out[k, w], out[k + 1, w] = own, 0.5 * (own + after)
                    out[k + 2, w], out[k + 3, w] = total / (last - first), 0.5 * (own + before)
    return out


@dataclass(frozen=True, eq=False)
class CornerQuads:
    """Corner values inside their own face, so that seams of uv stay seams: four new corners per old one."""

    face_start: Indices
    triangles: Flags | bool = False

    def apply(self, values: AnyArray) -> Floats:
        """Return values of the new corners ``(4 C, ...)``."""
        flat = flat_rows(values)
        return _corner_quads(flat, self.face_start, bool(self.triangles)).reshape(4 * len(values), *values.shape[1:])
