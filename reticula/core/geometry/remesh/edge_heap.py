"""A heap of edges with the cheapest on top, in which any edge can be found, moved and taken out."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from reticula.core.arrays import Floats, Indices, Ints
from reticula.core.jit import inline, inline_making

__all__ = ["EdgeHeap", "is_in_heap", "make_heap", "move_in_heap", "remove_from_heap", "sink_top"]


class EdgeHeap(NamedTuple):
    """``cost (E,)`` of each edge, ``heap (E,)`` of edge numbers, ``slot (E,)`` where each stands, ``size (1,)``."""

    cost: Floats
    heap: Indices
    slot: Indices
    size: Ints


@inline_making
def make_heap(cost: Floats) -> EdgeHeap:
    """Return a heap of all edges."""
    count = len(cost)
    heap, slot = np.arange(count).astype(np.int32), np.arange(count).astype(np.int32)
    for i in range(count // 2 - 1, -1, -1):
        _sift_down(cost, heap, slot, i, count)
    size = np.empty(1, np.int64)
    size[0] = count
    return EdgeHeap(cost, heap, slot, size)


@inline
def is_in_heap(edges: EdgeHeap, e: int) -> bool:
    """Whether an edge was not taken out."""
    return edges.slot[e] < edges.size[0] and edges.heap[edges.slot[e]] == e


@inline
def move_in_heap(edges: EdgeHeap, e: int) -> None:
    """Put an edge in its place after its cost changed."""
    _sift_up(edges.cost, edges.heap, edges.slot, edges.slot[e])
    _sift_down(edges.cost, edges.heap, edges.slot, edges.slot[e], edges.size[0])


@inline
def sink_top(edges: EdgeHeap) -> None:
    """Put the top edge in its place after its cost rose."""
    _sift_down(edges.cost, edges.heap, edges.slot, 0, edges.size[0])


@inline
def remove_from_heap(edges: EdgeHeap, e: int) -> None:
    """Take an edge out."""
    cost, heap, slot = edges.cost, edges.heap, edges.slot
    size = edges.size[0]
    i = slot[e]
    last = heap[size - 1]
    slot[e] = size
    if last != e:
        heap[i] = last
        slot[last] = i
        _sift_up(cost, heap, slot, i)
        _sift_down(cost, heap, slot, slot[last], size - 1)
    heap[size - 1] = e
    edges.size[0] = size - 1


@inline
def _sift_up(cost: Floats, heap: Indices, slot: Indices, i: int) -> None:
    e = heap[i]
    while i > 0:
        up = (i - 1) // 2
        if cost[heap[up]] <= cost[e]:
            break
        heap[i] = heap[up]
        slot[heap[i]] = i
        i = up
    heap[i] = e
    slot[e] = i


@inline
def _sift_down(cost: Floats, heap: Indices, slot: Indices, i: int, size: int) -> None:
    e = heap[i]
    while True:
        low = 2 * i + 1
        if low >= size:
            break
        if low + 1 < size and cost[heap[low + 1]] < cost[heap[low]]:
            low += 1
        if cost[heap[low]] >= cost[e]:
            break
        heap[i] = heap[low]
        slot[heap[i]] = i
        i = low
    heap[i] = e
    slot[e] = i
