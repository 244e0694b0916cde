"""Faces cut by the zero line of a value given at the points."""

from __future__ import annotations

from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats, Indices, as_readonly, starts_from_sizes
from reticula.core.geometry.edit.face_triangles import triangulate_faces
from reticula.core.geometry.mesh.carry import carry
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.mesh.source_maps import SourceMap, Weights, edges_along, kept
from reticula.core.jit import inline, kernel

__all__ = ["Cut", "cut_at_zero"]


@dataclass(frozen=True, eq=False)
class Cut:
    """A mesh cut along a line: ``side (F,)`` is -1 or 1 for each face of ``geo``; ``on (P,)`` marks points of the
    line.
    """

    geo: Geo
    side: AnyArray
    on: Flags


@kernel
def _crossings(value: Floats, face_start: Indices, corner_point: Indices) -> Indices:
    """How often the value changes sign round each face."""
    out = np.zeros(len(face_start) - 1, np.int32)
    for f in range(len(face_start) - 1):
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
    many = _crossings(value, shape.face_start, shape.corner_point)
    zeros = (
        np.add.reduceat(value[shape.corner_point] == 0.0, shape.face_start[:-1], dtype=np.int64)
        if shape.face_count
        else many
    )
    geo = triangulate_faces(geo, (many > 2) | ((many == 2) & (zeros > 0) & (shape.face_size > 4)))
    shape = geo.topology
    crossed = _crossings(value, shape.face_start, shape.corner_point) > 0
    a, b = shape.edges[:, 0], shape.edges[:, 1]
    cut = np.flatnonzero(value[a] * value[b] < 0.0)
    edge_point = np.full(shape.edge_count, -1, np.int32)
    edge_point[cut] = shape.point_count + np.arange(len(cut))
    low, high = np.minimum(a, b)[cut], np.maximum(a, b)[cut]
    share = value[low] / (value[low] - value[high])
    halves = _cut_faces(value, crossed, shape.face_start, shape.corner_point, shape.corner_edge, edge_point)
    first, second = halves.first, halves.second
    topology = shape.with_faces(shape.point_count + len(cut), starts_from_sizes(halves.sizes), halves.point)
    source = np.repeat(np.arange(shape.face_count), np.where(crossed, 2, 1))
    every = np.arange(shape.point_count)
    along = np.zeros(len(first))
    on_edge = first != second
    ends = value[shape.corner_point[first[on_edge]]], value[shape.corner_point[second[on_edge]]]
    along[on_edge] = ends[0] / (ends[0] - ends[1])
    shares = np.concatenate([np.zeros(len(every)), share])
    near = np.where(share > 0.5, high, low)
    made = carry(
        geo,
        topology,
        {
            "point": SourceMap(
                as_readonly(np.concatenate([every, near]).astype(np.int32)),
                Weights.pairs(np.concatenate([every, low]), np.concatenate([every, high]), shares),
            ),
            "face": kept(source),
            "corner": SourceMap(
                as_readonly(np.where(along > 0.5, second, first).astype(np.int32)), Weights.pairs(first, second, along)
            ),
            "edge": edges_along(topology, halves.edge),
        },
    )
    at_points = np.concatenate([value, np.zeros(len(cut))])
    total = (
        np.add.reduceat(np.sign(at_points)[topology.corner_point], topology.face_start[:-1])
        if topology.face_count
        else np.zeros(0)
    )
    return Cut(made, np.sign(total), at_points == 0.0)
