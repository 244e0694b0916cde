"""Faces split into smaller ones: the topology of it, and how values of each kind pass into it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal, NamedTuple

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Indices, as_readonly, ragged_index, starts_from_sizes
from reticula.core.geometry.mesh.source_maps import SourceMap, Weights, edges_along, kept
from reticula.core.geometry.mesh.topology import Topology
from reticula.core.jit import inline, kernel

__all__ = ["Into", "Split", "split_plan"]

Into = Literal["quads", "triangles", "fan"]
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
    """Faces after one level: their ``sizes``, ``source`` faces, and whether each is a ``child``.

    ``corner (N, 4)`` holds, per corner, its point, its source corner, what it is (0 the corner itself, 1 the middle
    towards the next one, 2 the face's middle), and the old edge along its edge.
    """

    sizes: Indices
    source: Indices
    child: Flags
    corner: Indices


@inline
def _put(corner: Indices, at: int, values: tuple[int, int, int, int]) -> int:
    """Write a corner; returns where the next one goes."""
    corner[at, 0], corner[at, 1], corner[at, 2], corner[at, 3] = values
    return at + 1


@inline
def _whole_face(mesh: _Mesh, f: int, insert: bool, corner: Indices, at: int) -> int:
    """Write a face that stays, with the middles of its edges if ``insert``; returns where the next one begins."""
    for c in range(mesh.face_start[f], mesh.face_start[f + 1]):
        e = mesh.corner_edge[c]
        at = _put(corner, at, (mesh.corner_point[c], c, 0, e))
        if insert and mesh.middle[e] >= 0:
            at = _put(corner, at, (mesh.middle[e], c, 1, e))
    return at


@inline
def _part_at(mesh: _Mesh, f: int, c: int, into: int, corner: Indices, at: int) -> int:
    """Write the part of a face at one of its corners; returns where the next one begins."""
    first, last = mesh.face_start[f], mesh.face_start[f + 1]
    before = c - 1 if c > first else last - 1
    after = c + 1 if c + 1 < last else first
    e, back = mesh.corner_edge[c], mesh.corner_edge[before]
    at = _put(corner, at, (mesh.corner_point[c], c, 0, e))
    if into == FAN:
        at = _put(corner, at, (mesh.corner_point[after], after, 0, -1))
        return _put(corner, at, (mesh.center[f], c, 2, -1))
    at = _put(corner, at, (mesh.middle[e], c, 1, -1))
    if into == QUADS:
        at = _put(corner, at, (mesh.center[f], c, 2, -1))
    return _put(corner, at, (mesh.middle[back], before, 1, back))


@kernel
def _split(into: int, insert: bool, mesh: _Mesh) -> _Parts:
    """Split the chosen faces; the others receive the middles of shared edges if ``insert``."""
    room = faces = 0
    for f in range(len(mesh.face_start) - 1):
        n = mesh.face_start[f + 1] - mesh.face_start[f]
        room += (4 * n if into != FAN else 3 * n) if mesh.chosen[f] else 2 * n
        faces += n + 1 if mesh.chosen[f] else 1
    sizes, source = np.empty(faces, np.int32), np.empty(faces, np.int32)
    child = np.zeros(faces, np.bool_)
    corner = np.empty((room, 4), np.int32)
    at = number = 0
    for f in range(len(mesh.face_start) - 1):
        first, last = mesh.face_start[f], mesh.face_start[f + 1]
        if not mesh.chosen[f]:
            row = at
            at = _whole_face(mesh, f, insert, corner, at)
            sizes[number], source[number] = at - row, f
            number += 1
            continue
        for c in range(first, last):
            row = at
            at = _part_at(mesh, f, c, into, corner, at)
            sizes[number], source[number], child[number] = at - row, f, True
            number += 1
        if into == TRIANGLES:
            for c in range(first, last):
                at = _put(corner, at, (mesh.middle[mesh.corner_edge[c]], c, 1, -1))
            sizes[number], source[number], child[number] = last - first, f, True
            number += 1
    return _Parts(sizes[:number].copy(), source[:number].copy(), child[:number].copy(), corner[:at].copy())


def split_plan(shape: Topology, chosen: Flags, into: Into, *, open_seam: bool = False) -> Split:
    """Plan to split the ``chosen (F,)`` faces, which must be triangles to become four triangles each.

    Parts stand where their face stood. Neighbours receive the new points of shared edges as corners, unless the seam is
    left open.
    """
    middle, center = np.full(shape.edge_count, -1, np.int32), np.full(shape.face_count, -1, np.int32)
    touched = np.zeros(0, np.int64)
    if into != "fan":
        marked = np.zeros(shape.edge_count, bool)
        marked[shape.corner_edge[chosen[shape.corner_face]]] = True
        touched = np.flatnonzero(marked)
        middle[touched] = shape.point_count + np.arange(len(touched))
    faces = np.flatnonzero(chosen) if into != "triangles" else np.zeros(0, np.int64)
    center[faces] = shape.point_count + len(touched) + np.arange(len(faces))
    mesh = _Mesh(chosen, shape.face_start, shape.corner_point, shape.corner_edge, middle, center)
    sizes, source, child, made = _split(INTO[into], not open_seam, mesh)
    point, corner, what, along = (np.ascontiguousarray(column) for column in made.T)
    count = shape.point_count + len(touched) + len(faces)
    topology = shape.with_faces(count, starts_from_sizes(sizes), point)
    ends = shape.edges[touched]
    main = np.concatenate([np.arange(shape.point_count), ends[:, 0], shape.corner_point[shape.face_start[faces]]])
    rows = np.concatenate([np.ones(shape.point_count, np.int64), np.full(len(touched), 2), shape.face_size[faces]])
    flat, _ = ragged_index(shape.face_start, faces)
    items = np.concatenate([np.arange(shape.point_count), ends.reshape(-1), shape.corner_point[flat]])
    return Split(
        topology,
        SourceMap(as_readonly(main.astype(np.int32)), Weights.means(starts_from_sizes(rows), items)),
        kept(source),
        lambda: _corner_map(shape, corner, what),
        edges_along(topology, along),
        touched,
        child,
        ~child & (sizes != shape.face_size[source]),
    )


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
