"""Faces cut by the zero line of a value given at the points."""

from __future__ import annotations

from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats, Indices, as_readonly, starts_from_sizes
from reticula.core.geometry.edit.face_triangles import triangulate_faces
from reticula.core.geometry.mesh.carry import carry
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.mesh.source_maps import Patched, SourceMap, edges_along, kept
from reticula.core.jit import inline, kernel, parallel_kernel, prange

__all__ = ["Cut", "cut_at_zero"]


@dataclass(frozen=True, eq=False)
class Cut:
    """A mesh cut along a line: ``side (F,)`` is -1 or 1 for each face of ``geo``; ``on (P,)`` marks points of the
    line.
    """

    geo: Geo
    side: AnyArray
    on: Flags


@parallel_kernel
def _crossings(value: Floats, face_start: Indices, corner_point: Indices) -> tuple[Indices, Indices]:
    """How often the value changes sign round each face, and at how many corners it is 0."""
    out, zeros = np.zeros(len(face_start) - 1, np.int32), np.zeros(len(face_start) - 1, np.int32)
    for f in prange(len(face_start) - 1):
        first, last = face_start[f], face_start[f + 1]
        before = 0.0
        for c in range(first, last):
            if value[corner_point[c]] != 0.0:
                before = value[corner_point[c]]
        for c in range(first, last):
            v = value[corner_point[c]]
            if v != 0.0:
                if (v > 0.0) != (before > 0.0):
                    out[f] += 1
                before = v
            else:
                zeros[f] += 1
    return out, zeros


@kernel
def _cut_edges(value: Floats, edges: Indices) -> Indices:
    """Which edges the line crosses between their ends."""
    found = np.empty(len(edges), np.int32)
    number = 0
    for e in range(len(edges)):
        if value[edges[e, 0]] * value[edges[e, 1]] < 0.0:
            found[number] = e
            number += 1
    return found[:number].copy()


@parallel_kernel
def _face_sides(value: Floats, face_start: Indices, corner_point: Indices) -> Floats:
    """The sign that most corners of each face have."""
    out = np.zeros(len(face_start) - 1)
    for f in prange(len(face_start) - 1):
        total = 0.0
        for c in range(face_start[f], face_start[f + 1]):
            total += np.sign(value[corner_point[c]])
        out[f] = np.sign(total)
    return out


@inline
def _sides(value: Floats, corner_point: Indices, first: int, last: int, side: AnyArray) -> None:
    """Write on which side each corner of a crossed face lies; 0 only for those at which the cut begins or ends.

    Of corners with the value 0 beside each other, between both signs, the cut goes through the first; the others, and
    those between equal signs, belong to the sign that follows.
    """
    before = 0
    for c in range(first, last):
        v = value[corner_point[c]]
        if v != 0.0:
            before = 1 if v > 0.0 else -1
    for c in range(first, last):
        v = value[corner_point[c]]
        if v != 0.0:
            before = 1 if v > 0.0 else -1
            side[c - first] = before
            continue
        after = 0
        k = c
        while after == 0:
            k = k + 1 if k + 1 < last else first
            w = value[corner_point[k]]
            after = 1 if w > 0.0 else (-1 if w < 0.0 else 0)
        previous = c - 1 if c > first else last - 1
        begins = value[corner_point[previous]] != 0.0
        side[c - first] = 0 if after != before and begins else after


class _Halves(NamedTuple):
    """Faces after a cut: ``sizes (M,)``, and per corner its point, the ``first`` and ``second`` corner it comes from
    (equal, but for points on edges), and the old ``edge`` that its edge runs along, -1 along the cut.
    """

    sizes: Indices
    point: Indices
    first: Indices
    second: Indices
    edge: Indices


@kernel
def _cut_faces(
    value: Floats, crossed: Flags, face_start: Indices, corner_point: Indices, corner_edge: Indices, edge_point: Indices
) -> _Halves:
    """Return halves of the crossed faces, others whole, in order, the negative half before the positive one."""
    room = 0
    for f in range(len(face_start) - 1):
        size = face_start[f + 1] - face_start[f]
        room += size + 4 if crossed[f] else size
    sizes = np.empty(2 * len(face_start), np.int32)
    point, first_source, second_source, edge = (
        np.empty(room, np.int32),
        np.empty(room, np.int32),
        np.empty(room, np.int32),
        np.empty(room, np.int32),
    )
    at = faces = 0
    side = np.empty(room, np.int8)
    for f in range(len(face_start) - 1):
        first, last = face_start[f], face_start[f + 1]
        if not crossed[f]:
            for c in range(first, last):
                point[at], first_source[at], second_source[at], edge[at] = corner_point[c], c, c, corner_edge[c]
                at += 1
            sizes[faces] = last - first
            faces += 1
            continue
        _sides(value, corner_point, first, last, side)
        for half in range(2):
            sign = -1 if half == 0 else 1
            row = at
            for c in range(first, last):
                d = c + 1 if c + 1 < last else first
                here, ahead = sign * side[c - first], sign * side[d - first]
                if here >= 0:
                    point[at], first_source[at], second_source[at] = corner_point[c], c, c
                    edge[at] = corner_edge[c] if here > 0 or ahead > 0 else -1
                    at += 1
                if value[corner_point[c]] * value[corner_point[d]] < 0.0:
                    point[at], first_source[at], second_source[at] = edge_point[corner_edge[c]], c, d
                    edge[at] = corner_edge[c] if here < 0 else -1
                    at += 1
            sizes[faces] = at - row
            faces += 1
    return _Halves(
        sizes[:faces].copy(),
        point[:at].copy(),
        first_source[:at].copy(),
        second_source[:at].copy(),
        edge[:at].copy(),
    )


def cut_at_zero(geo: Geo, value: Floats) -> Cut:
    """Cut the faces where ``value (P,)`` changes its sign along them; values within rounding of 0 count as 0.

    New points lie where the value is 0 between the ends of an edge; all values are interpolated there. Faces whose
    outline crosses more than twice, and concave ones with corners on the line, are cut into triangles first. Loose
    points and curves stay.
    """
    reach = np.abs(value).max(initial=0.0)
    value = np.where(np.abs(value) <= 1e-12 * reach, 0.0, value)
    shape = geo.topology
    many, zeros = _crossings(value, shape.face_start, shape.corner_point)
    hard = (many > 2) | ((many == 2) & (zeros > 0) & (shape.face_size > 4))
    if hard.any():
        geo = triangulate_faces(geo, hard)
        shape = geo.topology
        many, _ = _crossings(value, shape.face_start, shape.corner_point)
    crossed = many > 0
    cut = _cut_edges(value, shape.edges)
    a, b = shape.edges[cut, 0], shape.edges[cut, 1]
    edge_point = np.full(shape.edge_count, -1, np.int32)
    edge_point[cut] = np.arange(shape.point_count, shape.point_count + len(cut), dtype=np.int32)
    low, high = np.minimum(a, b), np.maximum(a, b)
    share = value[low] / (value[low] - value[high])
    halves = _cut_faces(value, crossed, shape.face_start, shape.corner_point, shape.corner_edge, edge_point)
    first, second = halves.first, halves.second
    topology = shape.with_faces(shape.point_count + len(cut), starts_from_sizes(halves.sizes), halves.point)
    source = np.repeat(np.arange(shape.face_count, dtype=np.int32), np.where(crossed, 2, 1))
    every = np.arange(shape.point_count, dtype=np.int32)
    points = kept(np.concatenate([every, np.where(share > 0.5, high, low)])).index
    added = np.arange(len(every), len(points))
    on_edge = np.flatnonzero(first != second)
    one, other = first[on_edge], second[on_edge]
    ends = value[shape.corner_point[one]], value[shape.corner_point[other]]
    along = ends[0] / (ends[0] - ends[1])
    corners = first.copy()
    corners[on_edge] = np.where(along > 0.5, other, one)
    made = carry(
        geo,
        topology,
        {
            "point": SourceMap(points, Patched(points, added, low, high, share)),
            "face": kept(source),
            "corner": SourceMap(as_readonly(corners), Patched(first, on_edge, one, other, along)),
            "edge": edges_along(topology, halves.edge),
        },
    )
    at_points = np.concatenate([value, np.zeros(len(cut))])
    return Cut(made, _face_sides(at_points, topology.face_start, topology.corner_point), at_points == 0.0)
