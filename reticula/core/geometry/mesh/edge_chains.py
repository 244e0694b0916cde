"""Edges put end to end to long curves."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Indices
from reticula.core.geometry.mesh.adjacency import group_by
from reticula.core.jit import kernel

__all__ = ["EdgeChains", "edge_chains"]


class EdgeChains(NamedTuple):
    """Chains as ``start (K+1,)`` and ``point``; whether each is ``closed (K,)``, and its ``first (K,)`` edge."""

    start: Indices
    point: Indices
    closed: Flags
    first: Indices


@kernel
def _edge_chains(edges: Indices, start: Indices, spoke: Indices, stop: Flags) -> EdgeChains:
    count = len(edges)
    begin, point = np.zeros(count + 1, np.int32), np.empty(2 * count, np.int32)
    closed, first = np.zeros(count, np.bool_), np.empty(count, np.int32)
    done = np.zeros(count, np.bool_)
    made = at = 0
    for turn in range(2):
        for e0 in range(count):
            if done[e0]:
                continue
            tail = edges[e0, 0]
            if turn == 0:
                if not stop[tail]:
                    tail = edges[e0, 1]
                if not stop[tail]:
                    continue
            e = e0
            origin = tail
            point[at] = tail
            at += 1
            while True:
                done[e] = True
                tail = edges[e, 0] + edges[e, 1] - tail
                if tail == origin and turn == 1:
                    closed[made] = True
                    break
                point[at] = tail
                at += 1
                if stop[tail]:
                    break
                a = spoke[start[tail]]
                e = spoke[start[tail] + 1] if a == e else a
                if done[e]:
                    break
            first[made] = e0
            made += 1
            begin[made] = at
    return EdgeChains(begin[: made + 1].copy(), point[:at].copy(), closed[:made].copy(), first[:made].copy())


def edge_chains(edges: AnyArray, point_count: int, stops: Flags | None = None) -> EdgeChains:
    """Put ``edges (E, 2)`` end to end, as far as exactly two of them meet.

    Chains end at branches, at loose ends and at points marked in ``stops (P,)``; loops without any are closed. A loop
    of two edges stays open.
    """
    edges = np.ascontiguousarray(edges, np.int32).reshape(-1, 2)
    start, order = group_by(edges.reshape(-1), point_count)
    stop = np.diff(start) != 2
    if stops is not None:
        stop |= stops
    return _edge_chains(edges, start, (order // 2).astype(np.int32), stop)
