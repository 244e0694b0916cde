"""A tree of boxes over points: nearest points, and all points within a radius. Double precision, compiled.

Built by halving along the widest side (Bentley, "Multidimensional binary search trees used for associative searching",
CACM 18(9), 1975), down to a few points per leaf. Every node knows the tight box around its points, which prunes
better than the cutting planes alone.
"""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np

from reticula.core.arrays import Flags, Floats, Indices, Ints
from reticula.core.jit import inline, kernel, parallel_kernel, prange

__all__ = [
    "STACK",
    "CountScratch",
    "PointTree",
    "Row",
    "Scratch",
    "build_point_tree",
    "count_near",
    "count_one",
    "fill_near",
    "fill_one",
    "nearest",
    "nearest_one",
    "push_children",
]

LEAF = 8
STACK = 96
CHUNK = 256


Place = tuple[float, float, float]


class PointTree(NamedTuple):
    """``box (M, 6)``, ``first (M,)`` child or point, ``size (M,)`` (0: inner); ``place (P, 3)`` and ``order (P,)`` in
    leaf order.
    """

    box: Floats
    first: Indices
    size: Indices
    place: Floats
    order: Indices


class Scratch(NamedTuple):
    """Room for a walk through a tree: nodes that are still to be looked at ``(STACK,)``, and how far they are."""

    stack: Indices
    gaps: Floats


class CountScratch(NamedTuple):
    """Room for a walk that counts: nodes ``(STACK,)``, and whether all of each lies within the radius."""

    stack: Indices
    whole: Flags


class Row(NamedTuple):
    """Where the points near one query go: ``item`` and ``far`` from ``begin`` up to ``end``."""

    item: Indices
    far: Floats
    begin: int
    end: int


class _Nodes(NamedTuple):
    """The nodes of a tree, and the points in leaf order."""

    box: Floats
    first: Indices
    size: Indices
    order: Indices


@inline
def _halve(order: Indices, key: Floats, begin: int, end: int) -> int:
    """Move the smaller half of ``key[order]`` to the front; quickselect with the middle of three as pivot."""
    middle = (begin + end) // 2
    low, high = begin, end - 1
    while low < high:
        a, b, c = key[order[low]], key[order[(low + high) // 2]], key[order[high]]
        pivot = max(min(a, b), min(max(a, b), c))
        i, j = low, high
        while i <= j:
            while key[order[i]] < pivot:
                i += 1
            while key[order[j]] > pivot:
                j -= 1
            if i <= j:
                order[i], order[j] = order[j], order[i]
                i += 1
                j -= 1
        if middle <= j:
            high = j
        elif middle >= i:
            low = i
        else:
            break
    return middle


@kernel
def _build(points: Floats) -> _Nodes:
    count = len(points)
    order = np.arange(count).astype(np.int32)
    axes = np.empty((3, count))
    for w in range(3):
        axes[w] = points[:, w]
    room = 4 * (count // LEAF) + 8
    box = np.empty((room, 6))
    first, size = np.zeros(room, np.int32), np.zeros(room, np.int32)
    stack = np.empty((STACK, 3), np.int64)
    stack[0] = (0, 0, count)
    depth, used = 1, 1
    while depth:
        depth -= 1
        node, begin, end = stack[depth]
        for w in range(3):
            low = high = axes[w, order[begin]]
            for i in range(begin + 1, end):
                value = axes[w, order[i]]
                low, high = min(low, value), max(high, value)
            box[node, w], box[node, w + 3] = low, high
        if end - begin <= LEAF:
            first[node], size[node] = begin, end - begin
            continue
        axis = 0
        for w in range(1, 3):
            if box[node, w + 3] - box[node, w] > box[node, axis + 3] - box[node, axis]:
                axis = w
        middle = _halve(order, axes[axis], begin, end)
        first[node] = used
        stack[depth] = (used + 1, middle, end)
        stack[depth + 1] = (used, begin, middle)
        depth += 2
        used += 2
    return _Nodes(box[:used].copy(), first[:used].copy(), size[:used].copy(), order)


def build_point_tree(points: Floats) -> PointTree:
    """Build the tree over ``points (P, 3)``; there must be at least one."""
    points = np.ascontiguousarray(points, np.float64)
    nodes = _build(points)
    return PointTree(nodes.box, nodes.first, nodes.size, np.ascontiguousarray(points[nodes.order]), nodes.order)


@inline
def _gap(box: Floats, node: int, at: Place) -> float:
    x, y, z = at
    dx = max(box[node, 0] - x, 0.0, x - box[node, 3])
    dy = max(box[node, 1] - y, 0.0, y - box[node, 4])
    dz = max(box[node, 2] - z, 0.0, z - box[node, 5])
    return dx * dx + dy * dy + dz * dz


@inline
def push_children(scratch: Scratch, depth: int, left: int, gap_of: tuple[float, float], best: float) -> int:
    """Put the children of a node that may hold something as near as ``best`` on the stack, the nearer one on top.

    They are ``left`` and the one after it, as far away as ``gap_of`` says.
    """
    stack, gaps = scratch.stack, scratch.gaps
    near, far = left, left + 1
    near_gap, far_gap = gap_of
    if far_gap < near_gap:
        near, far, near_gap, far_gap = far, near, far_gap, near_gap
    if far_gap <= best:
        stack[depth], gaps[depth] = far, far_gap
        depth += 1
    if near_gap <= best:
        stack[depth], gaps[depth] = near, near_gap
        depth += 1
    return depth


@inline
def nearest_one(tree: PointTree, at: Place, reach: float, scratch: Scratch) -> tuple[np.int32, float]:
    """Return the nearest point of one query, -1 beyond ``reach``, and its distance; ties go to the lowest number."""
    box, first, size, place, order = tree
    stack, gaps = scratch
    x, y, z = at
    best = reach * reach if reach >= 0.0 else -1.0
    found = np.int32(-1)
    stack[0], gaps[0] = 0, _gap(box, 0, at)
    depth = 1
    while depth:
        depth -= 1
        node = stack[depth]
        if gaps[depth] > best:
            continue
        if size[node]:
            for i in range(first[node], first[node] + size[node]):
                dx, dy, dz = place[i, 0] - x, place[i, 1] - y, place[i, 2] - z
                d = dx * dx + dy * dy + dz * dz
                if d < best or (d == best and (found < 0 or order[i] < found)):
                    best, found = d, order[i]
            continue
        left = first[node]
        depth = push_children(scratch, depth, left, (_gap(box, left, at), _gap(box, left + 1, at)), best)
    return found, math.sqrt(best) if found >= 0 else 0.0


@parallel_kernel
def nearest(tree: PointTree, asked: Floats, reach: Floats, order: Indices) -> tuple[Indices, Floats]:
    """Return the nearest point of each query ``(N,)``, -1 beyond ``reach (N,)``, and its distance; ties go to the
    lowest number. ``order (N,)`` is the number of each query.
    """
    index, distance = np.full(len(asked), -1, np.int32), np.zeros(len(asked))
    for chunk in prange((len(asked) + CHUNK - 1) // CHUNK):
        scratch = Scratch(np.empty(STACK, np.int32), np.empty(STACK))
        for k in range(chunk * CHUNK, min(chunk * CHUNK + CHUNK, len(asked))):
            q, at = order[k], (asked[k, 0], asked[k, 1], asked[k, 2])
            index[q], distance[q] = nearest_one(tree, at, reach[k], scratch)
    return index, distance


@inline
def _farthest(box: Floats, node: int, at: Place) -> float:
    x, y, z = at
    dx = max(x - box[node, 0], box[node, 3] - x)
    dy = max(y - box[node, 1], box[node, 4] - y)
    dz = max(z - box[node, 2], box[node, 5] - z)
    return dx * dx + dy * dy + dz * dz


@inline
def count_one(tree: PointTree, at: Place, radius: float, most: int, scratch: CountScratch) -> int:
    """Return how many points lie within ``radius`` of one query, counting up to ``most``."""
    box, first, size, place, _ = tree
    stack, inner = scratch
    x, y, z = at
    if radius < 0.0 or most < 1:
        return 0
    limit, count = radius * radius, 0
    stack[0], inner[0], depth = 0, False, 1
    while depth and count < most:
        depth -= 1
        node, whole = stack[depth], inner[depth]
        if not whole:
            if _gap(box, node, at) > limit:
                continue
            whole = _farthest(box, node, at) <= limit
        if size[node]:
            if whole:
                count += size[node]
                continue
            for i in range(first[node], first[node] + size[node]):
                dx, dy, dz = place[i, 0] - x, place[i, 1] - y, place[i, 2] - z
                if dx * dx + dy * dy + dz * dz <= limit:
                    count += 1
            continue
        stack[depth], inner[depth] = first[node] + 1, whole
        stack[depth + 1], inner[depth + 1] = first[node], whole
        depth += 2
    return min(count, most)


@parallel_kernel
def count_near(tree: PointTree, asked: Floats, radius: Floats, most: Ints, order: Indices) -> Ints:
    """Return how many points lie within ``radius (N,)`` of each query, counting up to ``most (N,)``."""
    total = np.zeros(len(asked), np.int64)
    for chunk in prange((len(asked) + CHUNK - 1) // CHUNK):
        scratch = CountScratch(np.empty(STACK, np.int32), np.zeros(STACK, np.bool_))
        for k in range(chunk * CHUNK, min(chunk * CHUNK + CHUNK, len(asked))):
            q, at = order[k], (asked[k, 0], asked[k, 1], asked[k, 2])
            total[q] = count_one(tree, at, radius[k], most[k], scratch)
    return total


@inline
def _before(d: float, i: int, e: float, j: int) -> bool:
    return d < e or (d == e and i < j)


@inline
def _sink(far: Floats, item: Indices, begin: int, at: int, end: int) -> None:
    """Restore the heap whose root, the farthest, stands at ``begin``, after the entry ``at`` became nearer."""
    while True:
        child = begin + 2 * (at - begin) + 1
        if child >= end:
            return
        if child + 1 < end and _before(far[child], item[child], far[child + 1], item[child + 1]):
            child += 1
        if not _before(far[at], item[at], far[child], item[child]):
            return
        far[at], far[child] = far[child], far[at]
        item[at], item[child] = item[child], item[at]
        at = child


@inline
def _build_heap(far: Floats, item: Indices, begin: int, end: int) -> None:
    for at in range(begin + (end - begin) // 2, begin - 1, -1):
        _sink(far, item, begin, at, end)


@inline
def fill_one(tree: PointTree, at: Place, radius: float, row: Row, scratch: Scratch) -> int:
    """Write the nearest points of one query to a row, nearest first, as far as it has room; return where they end.

    The farthest of those found so far is kept on top of a heap.
    """
    box, first, size, place, order = tree
    item, far, begin, end = row
    stack, gaps = scratch
    x, y, z = at
    if begin >= end or radius < 0.0:
        return begin
    limit, fill = radius * radius, begin
    stack[0], gaps[0] = 0, _gap(box, 0, at)
    depth = 1
    while depth:
        depth -= 1
        node = stack[depth]
        if gaps[depth] > limit or (fill == end and gaps[depth] > far[begin]):
            continue
        if size[node] == 0:
            near, other = first[node], first[node] + 1
            near_gap, other_gap = _gap(box, near, at), _gap(box, other, at)
            if other_gap < near_gap:
                near, other, near_gap, other_gap = other, near, other_gap, near_gap
            stack[depth], gaps[depth] = other, other_gap
            stack[depth + 1], gaps[depth + 1] = near, near_gap
            depth += 2
            continue
        for i in range(first[node], first[node] + size[node]):
            dx, dy, dz = place[i, 0] - x, place[i, 1] - y, place[i, 2] - z
            d = dx * dx + dy * dy + dz * dz
            if d > limit:
                continue
            if fill < end:
                far[fill], item[fill] = d, order[i]
                fill += 1
                if fill == end:
                    _build_heap(far, item, begin, end)
            elif _before(d, order[i], far[begin], item[begin]):
                far[begin], item[begin] = d, order[i]
                _sink(far, item, begin, begin, end)
    if fill < end:
        _build_heap(far, item, begin, fill)
    for last in range(fill - 1, begin, -1):
        far[begin], far[last] = far[last], far[begin]
        item[begin], item[last] = item[last], item[begin]
        _sink(far, item, begin, begin, last)
    for k in range(begin, fill):
        far[k] = np.sqrt(far[k])
    return fill


@parallel_kernel
def fill_near(tree: PointTree, asked: Floats, radius: Floats, start: Ints, order: Indices) -> tuple[Indices, Floats]:
    """Return the nearest points of each query, nearest first, as many as ``start (N+1,)`` has room for, and how far
    they are.
    """
    item, far = np.empty(start[-1], np.int32), np.empty(start[-1])
    for chunk in prange((len(asked) + CHUNK - 1) // CHUNK):
        scratch = Scratch(np.empty(STACK, np.int32), np.empty(STACK))
        for k in range(chunk * CHUNK, min(chunk * CHUNK + CHUNK, len(asked))):
            q, at = order[k], (asked[k, 0], asked[k, 1], asked[k, 2])
            fill_one(tree, at, radius[k], Row(item, far, start[q], start[q + 1]), scratch)
    return item, far
