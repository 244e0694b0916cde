"""A tree of boxes over triangles, built and walked by compiled kernels in double precision.

Built top-down by the surface area heuristic over 16 bins (Wald, "On fast construction of SAH-based bounding volume
hierarchies", RT 2007). Siblings lie side by side; ``first`` is the first child of an inner node or the first
triangle of a leaf, ``size`` is 0 for inner nodes.
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from reticula.core.arrays import Floats, Indices
from reticula.core.jit import inline, inline_making, kernel

__all__ = ["Tree", "build_tree"]

LEAF = 4
BINS = 16


class Tree(NamedTuple):
    """``box (M, 6)`` low and high, ``first (M,)``, ``size (M,)``; ``corner (T, 3, 3)`` and ``order (T,)`` in leaf
    order.
    """

    box: Floats
    first: Indices
    size: Indices
    corner: Floats
    order: Indices


class _Nodes(NamedTuple):
    """The nodes of a tree, and the triangles in leaf order."""

    box: Floats
    first: Indices
    size: Indices
    order: Indices


@inline
def _bounds(low: Floats, high: Floats, order: Indices, first: int, last: int, box: Floats) -> None:
    for w in range(3):
        box[w], box[w + 3] = np.inf, -np.inf
    for i in range(first, last):
        t = order[i]
        for w in range(3):
            box[w] = min(box[w], low[t, w])
            box[w + 3] = max(box[w + 3], high[t, w])


@inline
def _area(box: Floats) -> float:
    x, y, z = box[3] - box[0], box[4] - box[1], box[5] - box[2]
    return x * y + y * z + z * x


@inline_making
def _split(low: Floats, high: Floats, middle: Floats, order: Indices, first: int, last: int) -> int:
    """Partition ``order[first:last]`` and return where the second half begins."""
    least, most = np.full(3, np.inf), np.full(3, -np.inf)
    for i in range(first, last):
        for w in range(3):
            least[w] = min(least[w], middle[order[i], w])
            most[w] = max(most[w], middle[order[i], w])
    axis = 0
    for w in range(1, 3):
        if most[w] - least[w] > most[axis] - least[axis]:
            axis = w
    extent = most[axis] - least[axis]
    if not extent > 0.0:
        return (first + last) // 2
    scale = BINS * (1.0 - 1e-9) / extent
    count = np.zeros(BINS, np.int64)
    boxes = np.empty((BINS, 6))
    boxes[:, :3], boxes[:, 3:] = np.inf, -np.inf
    for i in range(first, last):
        t = order[i]
        b = int((middle[t, axis] - least[axis]) * scale)
        count[b] += 1
        for w in range(3):
            boxes[b, w] = min(boxes[b, w], low[t, w])
            boxes[b, w + 3] = max(boxes[b, w + 3], high[t, w])
    right = np.zeros(BINS)
    grown = np.array([np.inf, np.inf, np.inf, -np.inf, -np.inf, -np.inf])
    total = 0
    for b in range(BINS - 1, 0, -1):
        for w in range(3):
            grown[w] = min(grown[w], boxes[b, w])
            grown[w + 3] = max(grown[w + 3], boxes[b, w + 3])
        total += count[b]
        right[b] = total * _area(grown) if total else 0.0
    grown[:3], grown[3:] = np.inf, -np.inf
    total, best, cut = 0, np.inf, 1
    for b in range(BINS - 1):
        for w in range(3):
            grown[w] = min(grown[w], boxes[b, w])
            grown[w + 3] = max(grown[w + 3], boxes[b, w + 3])
        total += count[b]
        if total == 0 or total == last - first:
            continue
        cost = total * _area(grown) + right[b + 1]
        if cost < best:
            best, cut = cost, b + 1
    i, j = first, last - 1
    while i <= j:
        if int((middle[order[i], axis] - least[axis]) * scale) < cut:
            i += 1
        else:
            order[i], order[j] = order[j], order[i]
            j -= 1
    return i if first < i < last else (first + last) // 2


@kernel
def _build(corner: Floats) -> _Nodes:
    count = len(corner)
    low, high, middle = np.empty((count, 3)), np.empty((count, 3)), np.empty((count, 3))
    for t in range(count):
        for w in range(3):
            a, b, c = corner[t, 0, w], corner[t, 1, w], corner[t, 2, w]
            low[t, w], high[t, w] = min(a, b, c), max(a, b, c)
            middle[t, w] = 0.5 * (low[t, w] + high[t, w])
    order = np.arange(count).astype(np.int32)
    box = np.empty((2 * count, 6))
    first, size = np.zeros(2 * count, np.int32), np.zeros(2 * count, np.int32)
    used = 1
    stack = np.empty((128, 3), np.int64)
    stack[0] = (0, 0, count)
    depth = 1
    while depth:
        depth -= 1
        node, begin, end = stack[depth]
        _bounds(low, high, order, begin, end, box[node])
        if end - begin <= LEAF or depth > 120:
            first[node], size[node] = begin, end - begin
            continue
        middle_at = _split(low, high, middle, order, begin, end)
        first[node] = used
        left_is_larger = middle_at - begin > end - middle_at
        near, far = depth + 1, depth
        if left_is_larger:
            near, far = depth, depth + 1
        stack[near] = (used, begin, middle_at)
        stack[far] = (used + 1, middle_at, end)
        used += 2
        depth += 2
    return _Nodes(box[:used], first[:used], size[:used], order)


def build_tree(corner: Floats) -> Tree:
    """Build the tree over triangles given by their corners ``(T, 3, 3)``; there must be at least one."""
    nodes = _build(np.ascontiguousarray(corner))
    return Tree(nodes.box, nodes.first, nodes.size, np.ascontiguousarray(corner[nodes.order]), nodes.order)
