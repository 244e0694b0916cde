"""A tree of boxes over points: nearest points, and all points within a radius. Double precision, compiled.

Built by halving along the widest side (Bentley, "Multidimensional binary search trees used for associative searching",
CACM 18(9), 1975), down to a few points per leaf. Every node knows the tight box around its points, which prunes
better than the cutting planes alone.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from reticula.core.arrays import Flags, Floats, Indices, Ints
from reticula.core.jit import inline, kernel, parallel_kernel, prange

__all__ = [
    "STACK",
    "PointTree",
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


@dataclass(frozen=True, eq=False)
class PointTree:
    """``box (M, 6)``, ``first (M,)`` child or point, ``size (M,)`` (0: inner); ``place (P, 3)`` and ``order (P,)`` in
    leaf order.
    """

    box: Floats
    first: Indices
    size: Indices
    place: Floats
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
def _build(points: Floats) -> tuple[Floats, Indices, Indices, Indices]:
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
    return box[:used].copy(), first[:used].copy(), size[:used].copy(), order


def build_point_tree(points: Floats) -> PointTree:
    """Build the tree over ``points (P, 3)``; there must be at least one."""
    points = np.ascontiguousarray(points, np.float64)
    box, first, size, order = _build(points)
    return PointTree(box, first, size, np.ascontiguousarray(points[order]), order)


@inline
def _gap(box: Floats, node: int, x: float, y: float, z: float) -> float:
    dx = max(box[node, 0] - x, 0.0, x - box[node, 3])
    dy = max(box[node, 1] - y, 0.0, y - box[node, 4])
    dz = max(box[node, 2] - z, 0.0, z - box[node, 5])
    return dx * dx + dy * dy + dz * dz


@inline
def push_children(
    stack: Indices, gaps: Floats, depth: int, left: int, left_gap: float, right_gap: float, best: float
) -> int:
    """Put the children of a node that may hold something as near as ``best`` on the stack, the nearer one on top."""
    near, far, near_gap, far_gap = left, left + 1, left_gap, right_gap
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
def nearest_one(
    box: Floats,
    first: Indices,
    size: Indices,
    place: Floats,
    order: Indices,
    x: float,
    y: float,
    z: float,
    reach: float,
    stack: Indices,
    gaps: Floats,
) -> tuple[np.int32, float]:
    """Return the nearest point of one query, -1 beyond ``reach``, and its distance; ties go to the lowest number."""
    best = reach * reach if reach >= 0.0 else -1.0
    found = np.int32(-1)
    stack[0], gaps[0] = 0, _gap(box, 0, x, y, z)
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
        depth = push_children(stack, gaps, depth, left, _gap(box, left, x, y, z), _gap(box, left + 1, x, y, z), best)
    return found, math.sqrt(best) if found >= 0 else 0.0


@parallel_kernel
def nearest(
    box: Floats, first: Indices, size: Indices, place: Floats, order: Indices, asked: Floats, reach: Floats
) -> tuple[Indices, Floats]:
    """Return the nearest point of each query ``(N,)``, -1 beyond ``reach (N,)``, and its distance; ties go to the
    lowest number.
    """
    index, distance = np.full(len(asked), -1, np.int32), np.zeros(len(asked))
    for chunk in prange((len(asked) + CHUNK - 1) // CHUNK):
        stack, gaps = np.empty(STACK, np.int32), np.empty(STACK)
        for q in range(chunk * CHUNK, min(chunk * CHUNK + CHUNK, len(asked))):
            index[q], distance[q] = nearest_one(
                box, first, size, place, order, asked[q, 0], asked[q, 1], asked[q, 2], reach[q], stack, gaps
            )
    return index, distance


@inline
def _farthest(box: Floats, node: int, x: float, y: float, z: float) -> float:
    dx = max(x - box[node, 0], box[node, 3] - x)
    dy = max(y - box[node, 1], box[node, 4] - y)
    dz = max(z - box[node, 2], box[node, 5] - z)
    return dx * dx + dy * dy + dz * dz


@inline
def count_one(
    box: Floats,
    first: Indices,
    size: Indices,
    place: Floats,
    x: float,
    y: float,
    z: float,
    radius: float,
    most: int,
    stack: Indices,
    inner: Flags,
) -> int:
    """Return how many points lie within ``radius`` of one query, counting up to ``most``."""
    if radius < 0.0 or most < 1:
        return 0
    limit, count = radius * radius, 0
    stack[0], inner[0], depth = 0, False, 1
    while depth and count < most:
        depth -= 1
        node, whole = stack[depth], inner[depth]
        if not whole:
            if _gap(box, node, x, y, z) > limit:
                continue
            whole = _farthest(box, node, x, y, z) <= limit
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
def count_near(
    box: Floats, first: Indices, size: Indices, place: Floats, asked: Floats, radius: Floats, most: Ints
) -> Ints:
    """Return how many points lie within ``radius (N,)`` of each query, counting up to ``most (N,)``."""
    total = np.zeros(len(asked), np.int64)
    for chunk in prange((len(asked) + CHUNK - 1) // CHUNK):
        stack, inner = np.empty(STACK, np.int32), np.zeros(STACK, np.bool_)
        for q in range(chunk * CHUNK, min(chunk * CHUNK + CHUNK, len(asked))):
            total[q] = count_one(
                box, first, size, place, asked[q, 0], asked[q, 1], asked[q, 2], radius[q], most[q], stack, inner
            )
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
def fill_one(
    box: Floats,
    first: Indices,
    size: Indices,
    place: Floats,
    order: Indices,
    x: float,
    y: float,
    z: float,
    radius: float,
    item: Indices,
    far: Floats,
    begin: int,
    end: int,
    stack: Indices,
    gaps: Floats,
) -> int:
    """Write the nearest points of one query to ``item`` and ``far`` from ``begin``, nearest first, at most up to
    ``end``.

    Returns where they end.
    """
    if begin >= end or radius < 0.0:
        return begin
    limit, fill = radius * radius, begin
    stack[0], gaps[0] = 0, _gap(box, 0, x, y, z)
    depth = 1
    while depth:
        depth -= 1
        node = stack[depth]
        if gaps[depth] > limit or (fill == end and gaps[depth] > far[begin]):
            continue
        if size[node] == 0:
            near, other = first[node], first[node] + 1
            near_gap, other_gap = _gap(box, near, x, y, z), _gap(box, other, x, y, z)
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
def fill_near(
    box: Floats,
    first: Indices,
    size: Indices,
    place: Floats,
    order: Indices,
    asked: Floats,
    radius: Floats,
    start: Ints,
) -> tuple[Indices, Floats]:
    """Return the nearest points of each query, as many as ``start (N+1,)`` has room for, nearest first, and their
    distances.
    """
    item, far = np.empty(start[-1], np.int32), np.empty(start[-1])
    for chunk in prange((len(asked) + CHUNK - 1) // CHUNK):
        stack, gaps = np.empty(STACK, np.int32), np.empty(STACK)
        for q in range(chunk * CHUNK, min(chunk * CHUNK + CHUNK, len(asked))):
            fill_one(
                box,
                first,
                size,
                place,
                order,
                asked[q, 0],
                asked[q, 1],
                asked[q, 2],
                radius[q],
                item,
                far,
                start[q],
                start[q + 1],
                stack,
                gaps,
            )
    return item, far
