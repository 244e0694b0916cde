"""Directed segments of one plane put end to end, also where several loops meet in a point."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray, Floats, Indices, Ints
from reticula.core.geometry.planar.boundary_loops import segment_loops

__all__ = ["planar_loops"]


def planar_loops(tail: AnyArray, head: AnyArray, ends: Floats, points: int) -> tuple[Indices, Indices, int]:
    """Put directed segments ``tail -> head`` end to end whose left sides bound regions; ``ends (S, 2, 2)`` are places.

    Returns starts ``(L+1,)``, segments of the closed loops, and how many are left over. Where loops meet in a point,
    what lies to the left stays together: from each segment the path goes on along the first one that leaves, seen from
    the left. No loop goes through a point twice; a hole that touches its outline in one point is a loop of its own.
    """
    tail, head = np.asarray(tail, np.int64), np.asarray(head, np.int64)
    crowded = np.bincount(tail, minlength=points) > 1
    if not crowded.any():
        return segment_loops(tail, head, points)
    tails, heads, count = _by_wedge(tail, head, ends, points, crowded)
    start, item, left = segment_loops(tails, heads, count)
    loop = np.repeat(np.arange(len(start) - 1), np.diff(start))
    pair = loop * points + np.stack([tail[item], head[item]])
    distinct, local = np.unique(pair, return_inverse=True)
    local = local.reshape(2, -1)
    parts, inner, rest = segment_loops(local[0], local[1], len(distinct))
    return parts, item[inner], left + rest


def _by_wedge(tail: Ints, head: Ints, ends: Floats, points: int, crowded: AnyArray) -> tuple[Ints, Ints, int]:
    """Give each wedge of a region at a crowded point a number of its own: of the segment that comes in on its one side
    and the one that leaves on the other.
    """
    way = ends[:, 1] - ends[:, 0]
    angle = np.arctan2(way[:, 1], way[:, 0])
    back = np.arctan2(-way[:, 1], -way[:, 0])
    leaves, comes = np.flatnonzero(crowded[tail]), np.flatnonzero(crowded[head])
    node = np.concatenate([tail[leaves], head[comes]])
    segment = np.concatenate([leaves, comes])
    comes_in = np.arange(len(node)) >= len(leaves)
    turn = -np.concatenate([angle[leaves], back[comes]])
    order = np.lexsort([~comes_in, turn, node])
    node, segment, comes_in = node[order], segment[order], comes_in[order]
    last = np.append(node[1:] != node[:-1], True)
    first = np.flatnonzero(np.append(True, node[1:] != node[:-1]))
    following = np.arange(1, len(node) + 1)
    following[last] = first
    linked = np.flatnonzero(comes_in & ~comes_in[following])
    number = points + np.arange(len(linked))
    tails, heads = tail.copy(), head.copy()
    heads[segment[linked]] = number
    tails[segment[following[linked]]] = number
    return tails, heads, points + len(linked)
