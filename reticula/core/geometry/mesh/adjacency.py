"""Compiled kernels that find who touches whom. All run in time linear in the number of corners."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from reticula.core.arrays import Flags, Indices
from reticula.core.jit import inline, kernel

__all__ = [
    "EdgesOfPart",
    "corner_neighbours",
    "corners_across",
    "edges_of_faces",
    "edges_of_part",
    "face_neighbours",
    "find_root",
    "group_by",
    "join_across",
    "join_roots",
    "label_components",
    "rows_are_sound",
]


@inline
def find_root(parent: Indices, item: int) -> int:
    """Return the root of an item of a union-find forest, halving the path on the way."""
    while parent[item] != item:
        parent[item] = parent[parent[item]]
        item = parent[item]
    return item


@inline
def join_roots(parent: Indices, a: int, b: int) -> None:
    """Unite the trees of two items; the lower root stays."""
    a, b = find_root(parent, a), find_root(parent, b)
    if a < b:
        parent[b] = a
    elif b < a:
        parent[a] = b


@inline
def join_across(parent: Indices, point: Indices, following: Indices, c: int, d: int) -> None:
    """Unite the trees of corners that two faces with a common edge have at its ends; ``c`` and ``d`` lie along it."""
    if point[c] == point[d]:
        join_roots(parent, c, d)
        join_roots(parent, following[c], following[d])
    else:
        join_roots(parent, c, following[d])
        join_roots(parent, following[c], d)


@kernel
def corner_neighbours(face_start: Indices, corner_count: int) -> tuple[Indices, Indices, Indices]:
    """Return, per corner ``(C,)``: the next corner round its face, the one before it, and its face."""
    following = np.empty(corner_count, np.int32)
    previous = np.empty(corner_count, np.int32)
    face = np.empty(corner_count, np.int32)
    for f in range(len(face_start) - 1):
        first, last = face_start[f], face_start[f + 1] - 1
        for c in range(first, last + 1):
            face[c] = f
            following[c] = c + 1 if c < last else first
            previous[c] = c - 1 if c > first else last
    return following, previous, face


@kernel
def group_by(keys: Indices, count: int) -> tuple[Indices, Indices]:
    """Group positions by key: returns starts ``(count+1,)`` and positions sorted by key, order kept (counting sort)."""
    start = np.zeros(count + 1, np.int32)
    for k in keys:
        start[k + 1] += 1
    for k in range(count):
        start[k + 1] += start[k]
    fill = start[:-1].copy()
    order = np.empty(len(keys), np.int32)
    for i in range(len(keys)):
        k = keys[i]
        order[fill[k]] = i
        fill[k] += 1
    return start, order


@kernel
def edges_of_faces(point_count: int, corner_point: Indices, following: Indices) -> tuple[Indices, Indices]:
    """Find the unique point pairs of the faces.

    Returns ``edges (E, 2)`` in order of first appearance among the corners, each in the direction of that corner, and
    ``corner_edge (C,)``, the edge that leaves each corner. A counting sort by the lower point; among the corners of
    one lower point, in their order, a table by the higher one knows the first.
    """
    count = len(corner_point)
    low = np.empty(count, np.int32)
    high = np.empty(count, np.int32)
    for c in range(count):
        a, b = corner_point[c], corner_point[following[c]]
        low[c], high[c] = (a, b) if a < b else (b, a)
    _, order = group_by(low, point_count)
    first = np.empty(count, np.int32)
    seen = np.full(point_count, -1, np.int32)
    for c in order:
        leader = seen[high[c]]
        if leader < 0 or low[leader] != low[c]:
            leader = seen[high[c]] = c
        first[c] = leader
    corner_edge = np.empty(count, np.int32)
    number = 0
    for c in range(count):
        if first[c] == c:
            corner_edge[c] = number
            number += 1
    edges = np.empty((number, 2), np.int32)
    for c in range(count):
        if first[c] == c:
            edges[corner_edge[c], 0] = corner_point[c]
            edges[corner_edge[c], 1] = corner_point[following[c]]
        else:
            corner_edge[c] = corner_edge[first[c]]
    return edges, corner_edge


class EdgesOfPart(NamedTuple):
    """``edges (E, 2)`` and ``corner_edge (C,)`` as of :func:`edges_of_faces`, and the ``old (E,)`` edge of each."""

    edges: Indices
    corner_edge: Indices
    old: Indices


@kernel
def edges_of_part(
    old_edge: Indices, old_count: int, corner: Indices, corner_point: Indices, following: Indices
) -> EdgesOfPart:
    """Find the edges of whole faces out of a mesh of ``old_count`` edges: in one pass, since no two of them become one.

    ``corner (C,)`` are the old corners, whose edges are ``old_edge``; ``corner_point (C,)`` their points in the part.
    """
    number = np.full(old_count, -1, np.int32)
    corner_edge = np.empty(len(corner), np.int32)
    edges, old = np.empty((len(corner), 2), np.int32), np.empty(len(corner), np.int32)
    count = 0
    for c in range(len(corner)):
        e = old_edge[corner[c]]
        if number[e] < 0:
            number[e] = count
            edges[count, 0], edges[count, 1] = corner_point[c], corner_point[following[c]]
            old[count] = e
            count += 1
        corner_edge[c] = number[e]
    return EdgesOfPart(edges[:count].copy(), corner_edge, old[:count].copy())


@kernel
def face_neighbours(
    face_start: Indices, corner_edge: Indices, edge_start: Indices, edge_corner: Indices, corner_face: Indices
) -> tuple[Indices, Indices]:
    """Return the CSR of faces that share an edge with each face: starts ``(F+1,)`` and faces, in corner order."""
    faces = len(face_start) - 1
    start = np.zeros(faces + 1, np.int32)
    for f in range(faces):
        total = start[f]
        for c in range(face_start[f], face_start[f + 1]):
            e = corner_edge[c]
            for k in range(edge_start[e], edge_start[e + 1]):
                if corner_face[edge_corner[k]] != f:
                    total += 1
        start[f + 1] = total
    found = np.empty(start[faces], np.int32)
    at = 0
    for f in range(faces):
        for c in range(face_start[f], face_start[f + 1]):
            e = corner_edge[c]
            for k in range(edge_start[e], edge_start[e + 1]):
                other = corner_face[edge_corner[k]]
                if other != f:
                    found[at] = other
                    at += 1
    return start, found


@kernel
def label_components(count: int, pairs: Indices, used: Flags) -> Indices:
    """Number the connected parts of ``count`` elements joined by ``pairs (N, 2)``: union by index, path halving.

    Returns a label per element, counted from 0 in order of first element; elements not ``used`` get -1.
    Tarjan, "Efficiency of a good but not linear set union algorithm", J. ACM 22 (1975).
    """
    parent = np.arange(count).astype(np.int32)
    for i in range(len(pairs)):
        join_roots(parent, pairs[i, 0], pairs[i, 1])
    label = np.full(count, -1, np.int32)
    number = 0
    for i in range(count):
        if not used[i]:
            continue
        root = find_root(parent, i)
        if label[root] < 0:
            label[root] = number
            number += 1
        label[i] = label[root]
    return label


@kernel
def corners_across(corner_point: Indices, edge_start: Indices, edge_corner: Indices) -> Indices:
    """Return the opposite corner on each corner's edge ``(C,)`` where two faces of like winding meet, else -1."""
    across = np.full(len(corner_point), -1, np.int32)
    for e in range(len(edge_start) - 1):
        if edge_start[e + 1] - edge_start[e] == 2:
            a, b = edge_corner[edge_start[e]], edge_corner[edge_start[e] + 1]
            if corner_point[a] != corner_point[b]:
                across[a], across[b] = b, a
    return across


@kernel
def rows_are_sound(start: Indices, used: Indices, least: int, count: int) -> bool:
    """Tell whether starts ``(N+1,)`` cover the ``used (M,)`` in rows of ``least`` or more, all in ``range(count)``."""
    if len(start) == 0 or start[0] != 0 or start[-1] != len(used):
        return False
    bad = 0
    for row in range(len(start) - 1):
        bad += start[row + 1] - start[row] < least
    for k in range(len(used)):
        bad += used[k] < 0 or used[k] >= count
    return bad == 0
