"""Faces split into smaller ones: the topology of it, and how values of each kind pass into it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Indices, as_readonly, ragged_index, starts_from_sizes
from reticula.core.geometry.mesh.source_maps import SourceMap, Weights, edges_along, kept
from reticula.core.geometry.mesh.topology import Topology
from reticula.core.jit import kernel

__all__ = ["Into", "Split", "split_plan"]

Into = Literal["quads", "triangles", "fan"]
INTO: dict[Into, int] = {"quads": 0, "triangles": 1, "fan": 2}


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


@kernel
def _split(
    into: int,
    chosen: Flags,
    insert: bool,
    face_start: Indices,
    corner_point: Indices,
    corner_edge: Indices,
    middle: Indices,
    center: Indices,
) -> tuple[Indices, Indices, Indices, Indices, Indices, Flags]:
    """Faces after one level. Sizes, sources, then per corner: point, source corner, what it is (0 the corner itself,
    1 the middle towards the next one, 2 the face's middle), and the old edge along its edge; last, what is a child."""
    room = faces = 0
    for f in range(len(face_start) - 1):
        n = face_start[f + 1] - face_start[f]
        room += (4 * n if into != 2 else 3 * n) if chosen[f] else 2 * n
        faces += n + 1 if chosen[f] else 1
    sizes, source = np.empty(faces, np.int32), np.empty(faces, np.int32)
    child = np.zeros(faces, np.bool_)
    corner = np.empty((room, 4), np.int32)
    at = number = 0
    for f in range(len(face_start) - 1):
        first, last = face_start[f], face_start[f + 1]
        if not chosen[f]:
            row = at
            for c in range(first, last):
                e = corner_edge[c]
                corner[at, 0], corner[at, 1], corner[at, 2], corner[at, 3] = corner_point[c], c, 0, e
                at += 1
                if insert and middle[e] >= 0:
                    corner[at, 0], corner[at, 1], corner[at, 2], corner[at, 3] = middle[e], c, 1, e
                    at += 1
            sizes[number], source[number] = at - row, f
            number += 1
            continue
        for c in range(first, last):
            before = c - 1 if c > first else last - 1
            after = c + 1 if c + 1 < last else first
            e, back = corner_edge[c], corner_edge[before]
            corner[at, 0], corner[at, 1], corner[at, 2], corner[at, 3] = corner_point[c], c, 0, e
            at += 1
            if into == 2:
                corner[at, 0], corner[at, 1], corner[at, 2], corner[at, 3] = corner_point[after], after, 0, -1
                corner[at + 1, 0], corner[at + 1, 1], corner[at + 1, 2], corner[at + 1, 3] = center[f], c, 2, -1
                at += 2
                sizes[number] = 3
            else:
                corner[at, 0], corner[at, 1], corner[at, 2], corner[at, 3] = middle[e], c, 1, -1
                at += 1
                if into == 0:
                    corner[at, 0], corner[at, 1], corner[at, 2], corner[at, 3] = center[f], c, 2, -1
                    at += 1
                corner[at, 0], corner[at, 1], corner[at, 2], corner[at, 3] = middle[back], before, 1, back
                at += 1
                sizes[number] = 4 if into == 0 else 3
            source[number], child[number] = f, True
            number += 1
        if into == 1:
            for c in range(first, last):
                corner[at, 0], corner[at, 1], corner[at, 2], corner[at, 3] = middle[corner_edge[c]], c, 1, -1
                at += 1
            sizes[number], source[number], child[number] = last - first, f, True
            number += 1
    made = corner[:at]
    return (
        sizes[:number].copy(),
        source[:number].copy(),
        made[:, 0].copy(),
        made[:, 1].copy(),
        made[:, 2:].copy(),
        child[:number].copy(),
    )


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
    sizes, source, point, corner, rest, child = _split(
        INTO[into], chosen, not open_seam, shape.face_start, shape.corner_point, shape.corner_edge, middle, center
    )
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
        lambda: _corner_map(shape, corner, rest[:, 0]),
        edges_along(topology, rest[:, 1]),
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
