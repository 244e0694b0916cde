"""Closed loops: of border edges, and of loose segments put end to end."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats, Indices
from reticula.core.geometry.mesh.adjacency import group_by
from reticula.core.geometry.mesh.topology import Topology
from reticula.core.jit import kernel

__all__ = ["border_loops", "loop_normals", "segment_loops"]


@kernel
def _border_loops(border: Flags, across: Indices, following: Indices) -> tuple[Indices, Indices]:
    count = len(border)
    start, corner = np.zeros(count + 1, np.int32), np.empty(count, np.int32)
    done = np.zeros(count, np.bool_)
    loops = at = 0
    for first in range(count):
        if not border[first] or done[first]:
            continue
        row = at
        c = first
        while not done[c]:
            done[c] = True
            corner[at] = c
            at += 1
            c = following[c]
            for _ in range(count):
                if border[c] or across[c] < 0:
                    break
                c = following[across[c]]
            if not border[c]:
                break
        if c == first and at - row >= 3:
            loops += 1
            start[loops] = at
        else:
            at = row
    return start[: loops + 1].copy(), corner[:at].copy()


def border_loops(shape: Topology) -> tuple[Indices, Indices]:
    """Return the open borders as closed loops of corners: starts ``(L+1,)`` and the corners whose edges they run along.

    They run as the faces do, so a face that fills one runs the other way. Borders through edges of more than two faces
    do not close and are left out.
    """
    return _border_loops(shape.border_edges[shape.corner_edge], shape.corner_across, shape.corner_next)


@kernel
def _following(head: int, order: Indices, first_of: Indices, tried: Indices, done: Flags) -> int:
    """Return a segment that begins at ``head`` and is not done yet, or -1."""
    while tried[head] < first_of[head + 1]:
        segment = order[tried[head]]
        tried[head] += 1
        if not done[segment]:
            return segment
    return -1


@kernel
def _segment_loops(tail: Indices, head: Indices, order: Indices, first_of: Indices) -> tuple[Indices, Indices, int]:
    """Walk from segment to segment; whenever the path meets itself, what lies between is a loop. Dead ends go back."""
    count = len(head)
    start, item = np.zeros(count + 1, np.int32), np.empty(count, np.int32)
    done, path = np.zeros(count, np.bool_), np.empty(count, np.int32)
    seen, tried = np.full(len(first_of) - 1, -1, np.int32), first_of[:-1].copy()
    loops = at = left = 0
    for first in range(count):
        s, size = -1 if done[first] else first, 0
        while s >= 0:
            done[s], path[size], seen[tail[s]] = True, s, size
            size += 1
            here = head[s]
            if seen[here] >= 0:
                begin = seen[here]
                for k in range(begin, size):
                    seen[tail[path[k]]] = -1
                if size - begin >= 3:
                    item[at : at + size - begin] = path[begin:size]
                    at += size - begin
                    loops += 1
                    start[loops] = at
                else:
                    left += size - begin
                size = begin
            s = _following(here, order, first_of, tried, done) if size else -1
            while s < 0 and size:
                size -= 1
                here = tail[path[size]]
                seen[here] = -1
                left += 1
                s = _following(here, order, first_of, tried, done) if size else -1
    return start[: loops + 1].copy(), item[:at].copy(), left


def segment_loops(tail: AnyArray, head: AnyArray, points: int) -> tuple[Indices, Indices, int]:
    """Put directed segments ``tail -> head`` end to end.

    Returns starts ``(L+1,)`` and segments of the closed loops of three and more, and how many segments are left over.
    No loop goes through a point twice.
    """
    tails, heads = np.asarray(tail, np.int32), np.asarray(head, np.int32)
    first, order = group_by(tails, points)
    return _segment_loops(tails, heads, order, first)


@kernel
def loop_normals(positions: Floats, start: Indices, point: Indices) -> Floats:
    """Return each loop's area vector ``(L, 3)`` in m² (Newell's method); it looks to where the loop runs
    counter-clockwise.
    """
    out = np.zeros((len(start) - 1, 3))
    for f in range(len(start) - 1):
        first, last = start[f], start[f + 1]
        o = positions[point[first]]
        for k in range(first + 1, last - 1):
            a, b = positions[point[k]], positions[point[k + 1]]
            ax, ay, az = a[0] - o[0], a[1] - o[1], a[2] - o[2]
            bx, by, bz = b[0] - o[0], b[1] - o[1], b[2] - o[2]
            out[f, 0] += 0.5 * (ay * bz - az * by)
            out[f, 1] += 0.5 * (az * bx - ax * bz)
            out[f, 2] += 0.5 * (ax * by - ay * bx)
    return out
