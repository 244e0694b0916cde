"""Faces split into smaller ones: the topology of it, and how values of each kind pass into it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal, NamedTuple

import numpy as np
from numpy.typing import NDArray

from reticula.core.arrays import AnyArray, Flags, Indices, as_readonly, ragged_index, starts_from_sizes
from reticula.core.geometry.mesh.source_maps import SourceMap, Weights, edges_along, kept
from reticula.core.geometry.mesh.topology import Topology
from reticula.core.jit import inline, kernel, parallel_kernel, prange
from reticula.core.rows import rows_at

__all__ = ["Into", "Split", "split_plan"]

Into = Literal["quads", "triangles", "fan"]
Sides = NDArray[np.int8]
QUADS, TRIANGLES, FAN = 0, 1, 2
INTO: dict[Into, int] = {"quads": QUADS, "triangles": TRIANGLES, "fan": FAN}


@dataclass(frozen=True, eq=False)
class Split:
    """One level of splitting some faces of a topology.

    The points are the old ones, the middles of the ``touched`` edges and, for quads and fans, those of the split faces,
    in order. ``child (F,)`` marks the parts; ``grown (F,)`` the neighbours that received corners.
    """

    topology: Topology
    point: SourceMap
    face: SourceMap
    corner: Callable[[], SourceMap]
    edge: Callable[[], SourceMap]
    touched: AnyArray
    child: Flags
    grown: Flags


class _Mesh(NamedTuple):
    """The faces that are split, and the new points: ``middle (E,)`` of edges and ``center (F,)`` of faces, -1
    for none.
    """

    chosen: Flags
    face_start: Indices
    corner_point: Indices
    corner_edge: Indices
    middle: Indices
    center: Indices


class _Parts(NamedTuple):
    """Faces after one level: starts, ``source`` faces, and whether each is a ``child``.

    Per corner its point, its source corner, ``what`` it is (0 the corner itself, 1 the middle towards the next one, 2
    the face's middle), and the old edge ``along`` its edge.
    """

    face_start: Indices
    source: Indices
    child: Flags
    point: Indices
    corner: Indices
    what: Sides
    along: Indices


@inline
def _put(parts: _Parts, at: int, point: int, corner: int, what: int, along: int) -> int:
    """Write a corner; returns where the next one goes."""
    parts.point[at], parts.corner[at], parts.what[at], parts.along[at] = point, corner, what, along
    return at + 1


@inline
def _put_face(parts: _Parts, number: int, at: int, source: int, child: bool) -> int:
    """Write where a face begins; returns the number of the next one."""
    parts.face_start[number], parts.source[number], parts.child[number] = at, source, child
    return number + 1


@inline
def _whole_face(mesh: _Mesh, f: int, insert: bool, parts: _Parts, at: int) -> None:
    """Write a face that stays, with the middles of its edges if ``insert``."""
    for c in range(mesh.face_start[f], mesh.face_start[f + 1]):
        e = mesh.corner_edge[c]
        at = _put(parts, at, mesh.corner_point[c], c, 0, e)
        if insert and mesh.middle[e] >= 0:
            at = _put(parts, at, mesh.middle[e], c, 1, e)


@inline
def _part_at(mesh: _Mesh, f: int, c: int, into: int, parts: _Parts, at: int) -> int:
    """Write the part of a face at one of its corners; returns where the next one begins."""
    first, last = mesh.face_start[f], mesh.face_start[f + 1]
    before = c - 1 if c > first else last - 1
    after = c + 1 if c + 1 < last else first
    e, back = mesh.corner_edge[c], mesh.corner_edge[before]
    at = _put(parts, at, mesh.corner_point[c], c, 0, e)
    if into == FAN:
        at = _put(parts, at, mesh.corner_point[after], after, 0, -1)
        return _put(parts, at, mesh.center[f], c, 2, -1)
    at = _put(parts, at, mesh.middle[e], c, 1, -1)
    if into == QUADS:
        at = _put(parts, at, mesh.center[f], c, 2, -1)
    return _put(parts, at, mesh.middle[back], before, 1, back)


@kernel
def _rooms(into: int, insert: bool, mesh: _Mesh) -> tuple[Indices, Indices]:
    """Where the parts of each face, and their corners, begin ``(F+1,)`` each."""
    count = len(mesh.face_start) - 1
    faces, corners = np.zeros(count + 1, np.int32), np.zeros(count + 1, np.int32)
    for f in range(count):
        size = mesh.face_start[f + 1] - mesh.face_start[f]
        parts, used = 1, size
        if mesh.chosen[f]:
            parts = size + 1 if into == TRIANGLES else size
            used = 3 * size if into == FAN else 4 * size
        elif insert:
            for c in range(mesh.face_start[f], mesh.face_start[f + 1]):
                used += mesh.middle[mesh.corner_edge[c]] >= 0
        faces[f + 1], corners[f + 1] = faces[f] + parts, corners[f] + used
    return faces, corners


@parallel_kernel
def _split(into: int, insert: bool, mesh: _Mesh, first_part: Indices, first_corner: Indices) -> _Parts:
    """Split the chosen faces; the others receive the middles of shared edges if ``insert``."""
    faces, corners = first_part[-1], first_corner[-1]
    face_start = np.empty(faces + 1, np.int32)
    face_start[faces] = corners
    parts = _Parts(
        face_start,
        np.empty(faces, np.int32),
        np.empty(faces, np.bool_),
        np.empty(corners, np.int32),
        np.empty(corners, np.int32),
        np.empty(corners, np.int8),
        np.empty(corners, np.int32),
    )
    for f in prange(len(mesh.face_start) - 1):
        first, last = mesh.face_start[f], mesh.face_start[f + 1]
        number, at = first_part[f], first_corner[f]
        if not mesh.chosen[f]:
            _put_face(parts, number, at, f, False)
            _whole_face(mesh, f, insert, parts, at)
            continue
        for c in range(first, last):
            number = _put_face(parts, number, at, f, True)
            at = _part_at(mesh, f, c, into, parts, at)
        if into == TRIANGLES:
            _put_face(parts, number, at, f, True)
            for c in range(first, last):
                at = _put(parts, at, mesh.middle[mesh.corner_edge[c]], c, 1, -1)
    return parts


@kernel
def _edges_of(chosen: Flags, face_start: Indices, corner_edge: Indices, count: int) -> Flags:
    """Which edges the chosen faces have."""
    out = np.zeros(count, np.bool_)
    for f in range(len(chosen)):
        if chosen[f]:
            for c in range(face_start[f], face_start[f + 1]):
                out[corner_edge[c]] = True
    return out


def split_plan(shape: Topology, chosen: Flags, into: Into, *, open_seam: bool = False) -> Split:
    """Plan to split the ``chosen (F,)`` faces, which must be triangles to become four triangles each.

    Parts stand where their face stood. Neighbours receive the new points of shared edges as corners, unless the seam is
    left open.
    """
    middle, center = np.full(shape.edge_count, -1, np.int32), np.full(shape.face_count, -1, np.int32)
    touched = np.zeros(0, np.int64)
    if into != "fan":
        touched = np.flatnonzero(_edges_of(chosen, shape.face_start, shape.corner_edge, shape.edge_count))
        middle[touched] = np.arange(shape.point_count, shape.point_count + len(touched), dtype=np.int32)
    faces = np.flatnonzero(chosen) if into != "triangles" else np.zeros(0, np.int64)
    center[faces] = shape.point_count + len(touched) + np.arange(len(faces), dtype=np.int32)
    mesh = _Mesh(chosen, shape.face_start, shape.corner_point, shape.corner_edge, middle, center)
    kind = INTO[into]
    made = _split(kind, not open_seam, mesh, *_rooms(kind, not open_seam, mesh))
    topology = shape.with_faces(shape.point_count + len(touched) + len(faces), made.face_start, made.point)
    return Split(
        topology,
        _point_map(shape, touched, faces),
        kept(made.source),
        lambda: _corner_map(shape, made.corner, made.what),
        edges_along(topology, made.along),
        touched,
        made.child,
        ~made.child & (topology.face_size != rows_at(shape.face_size, made.source)),
    )


def _point_map(shape: Topology, touched: AnyArray, faces: AnyArray) -> SourceMap:
    """Old points as they are, then middles of ``touched`` edges, then those of ``faces``."""
    own = np.arange(shape.point_count, dtype=np.int32)
    ends = rows_at(shape.edges, touched)
    main = np.concatenate([own, ends[:, 0], shape.corner_point[shape.face_start[faces]]])
    flat, rows = ragged_index(shape.face_start, faces)
    items = np.concatenate([own, ends.reshape(-1), rows_at(shape.corner_point, flat)])
    pairs = np.arange(shape.point_count, shape.point_count + 2 * len(touched), 2, dtype=np.int32)
    start = np.concatenate([own, pairs, shape.point_count + 2 * len(touched) + rows])
    return SourceMap(as_readonly(main), Weights.means(start, items))


def _corner_map(shape: Topology, corner: Indices, what: AnyArray) -> SourceMap:
    """Corner values, interpolated along their edge or over their face."""
    face = np.where(what == 2, shape.corner_face[corner], -1)
    sizes = np.where(what == 0, 1, np.where(what == 1, 2, shape.face_size[shape.corner_face[corner]]))
    start = starts_from_sizes(sizes)
    column = np.empty(start[-1], np.int32)
    column[start[:-1]] = corner
    along = np.flatnonzero(what == 1)
    column[start[along] + 1] = shape.corner_next[corner[along]]
    middles = np.flatnonzero(what == 2)
    flat, rows = ragged_index(shape.face_start, face[middles])
    column[np.repeat(start[middles] - rows[:-1], np.diff(rows)) + np.arange(len(flat))] = flat
    return SourceMap(as_readonly(corner), Weights.means(start, column))
