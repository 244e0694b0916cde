"""Random places on triangles and in boxes, and choosing among them so that they are evenly spaced."""

from __future__ import annotations

import math

import numpy as np

from reticula.core.arrays import Flags, Floats, Indices
from reticula.core.geometry.mesh.identity import GOLDEN, mix64
from reticula.core.jit import inline, kernel, parallel_kernel, prange

__all__ = ["eliminate_samples", "sample_box", "sample_triangles", "thin_in_order"]

TRIES = 64
STEPS = 2.0**40


@inline
def _random(state: np.uint64, number: int) -> float:
    bits = mix64(state + np.uint64(number + 1) * GOLDEN)
    return np.float64(bits >> np.uint64(11)) * (1.0 / 9007199254740992.0)


@kernel
def _guide(total: Floats) -> Indices:
    """For each of as many equal shares of the whole as there are triangles, the first whose ``total (T,)`` is beyond
    where the share begins: Chen & Asau, "On generating random variates from an empirical distribution", AIIE
    Transactions 6(2), 1974.
    """
    count = len(total)
    out = np.empty(count, np.int32)
    t = 0
    for share in range(count):
        begin = share * (total[-1] / count)
        while t < count - 1 and total[t] <= begin:
            t += 1
        out[share] = t
    return out


@inline
def _first_beyond(total: Floats, guide: Indices, value: float) -> int:
    """The first whose total is beyond a value, the last if none is."""
    last = len(total) - 1
    t = int(guide[min(int(value / total[-1] * len(total)), last)])
    while t > 0 and total[t - 1] > value:
        t -= 1
    while t < last and total[t] <= value:
        t += 1
    return t


@parallel_kernel
def sample_triangles(total: Floats, density: Floats, count: int, seed: int) -> tuple[Indices, Floats]:
    """Return random places on triangles: triangle ``(N,)`` and weights of its corners ``(N, 3)``.

    ``total (T,)`` is the running sum of area times mean density, ``density (T, 3)`` the density at the corners, linear
    between. Every place depends on its own number and the seed only, so the first ones stay when more are asked for.
    Uniform within a triangle by Osada, Funkhouser, Chazelle & Dobkin, "Shape distributions", ACM TOG 21(4), 2002.
    """
    triangle, weight = np.empty(count, np.int32), np.empty((count, 3))
    whole, guide = total[-1], _guide(total)
    base = mix64(np.uint64(seed) + GOLDEN)
    for i in prange(count):
        state = mix64(base ^ mix64(np.uint64(i) * GOLDEN))
        t = _first_beyond(total, guide, _random(state, 0) * whole)
        triangle[i] = t
        most = max(density[t, 0], density[t, 1], density[t, 2])
        a = b = 0.0
        for k in range(TRIES):
            root, other = math.sqrt(_random(state, 3 * k + 1)), _random(state, 3 * k + 2)
            a, b = 1.0 - root, root * (1.0 - other)
            here = a * density[t, 0] + b * density[t, 1] + (1.0 - a - b) * density[t, 2]
            if _random(state, 3 * k + 3) * most <= here:
                break
        weight[i, 0], weight[i, 1], weight[i, 2] = a, b, 1.0 - a - b
    return triangle, weight


@parallel_kernel
def sample_box(low: Floats, high: Floats, begin: int, count: int, seed: int) -> Floats:
    """Return random places ``(N, 3)`` in a box, numbers ``begin`` and on of an endless row that hangs on the seed."""
    out = np.empty((count, 3))
    base = mix64(np.uint64(seed) + GOLDEN)
    for i in prange(count):
        state = mix64(base ^ mix64(np.uint64(begin + i) * GOLDEN))
        for w in range(3):
            out[i, w] = low[w] + _random(state, w) * (high[w] - low[w])
    return out


@inline
def _crowding(distance: float, radius: float, limit: float) -> float:
    """Yuksel 2015, equation 3; distances below the limit (a share of twice the radius) all count as the limit.

    In whole steps, so that sums are exact and two that crowd each other alone weigh the same in whatever order they are
    added.
    """
    return np.rint(max(1.0 - max(distance / (2.0 * radius), limit), 0.0) ** 8 * STEPS)


@kernel
def eliminate_samples(
    start: Indices, item: Indices, distance: Floats, radius: Floats, normal: Floats, wanted: int
) -> Indices:
    """Choose ``wanted`` of N candidates so that they are evenly spaced, and return their numbers in order.

    ``start``, ``item`` and ``distance`` list the neighbours of each candidate within twice its ``radius (N,)``; those
    whose ``normal (N, 3)`` points the other way do not crowd it. The most crowded one is taken away until enough are
    left: Yuksel, "Sample elimination for generating Poisson disk sample sets", Eurographics 2015, weights with power 8.
    """
    count = len(radius)
    weight = np.zeros(count)
    limit = 0.65 * (1.0 - (wanted / count) ** 1.5)
    for i in range(count):
        for k in range(start[i], start[i + 1]):
            j = item[k]
            if (
                j != i
                and normal[i, 0] * normal[j, 0] + normal[i, 1] * normal[j, 1] + normal[i, 2] * normal[j, 2] >= 0.0
            ):
                weight[i] += _crowding(distance[k], radius[i], limit)
    heap, where = np.arange(count).astype(np.int32), np.arange(count).astype(np.int32)
    for begin in range(count // 2 - 1, -1, -1):
        _sift(heap, where, weight, begin, count)
    left = count
    while left > wanted:
        i = heap[0]
        left -= 1
        heap[0], heap[left] = heap[left], heap[0]
        where[heap[0]], where[i] = 0, left
        _sift(heap, where, weight, 0, left)
        for k in range(start[i], start[i + 1]):
            j = item[k]
            if j == i or where[j] >= left:
                continue
            if normal[i, 0] * normal[j, 0] + normal[i, 1] * normal[j, 1] + normal[i, 2] * normal[j, 2] >= 0.0:
                weight[j] -= _crowding(distance[k], radius[j], limit)
                _sift(heap, where, weight, where[j], left)
    return np.sort(heap[:left].copy())


@inline
def _sift(heap: Indices, where: Indices, weight: Floats, at: int, count: int) -> None:
    """Sink an entry whose weight fell, in a heap with the heaviest on top; of equal ones the highest number."""
    while True:
        child = 2 * at + 1
        if child >= count:
            return
        if child + 1 < count:
            a, b = heap[child], heap[child + 1]
            if weight[b] > weight[a] or (weight[b] == weight[a] and b > a):
                child += 1
        a, b = heap[at], heap[child]
        if weight[a] > weight[b] or (weight[a] == weight[b] and a > b):
            return
        heap[at], heap[child] = b, a
        where[b], where[a] = at, child
        at = child


@inline
def _bucket(x: int, y: int, z: int, mask: np.uint64) -> int:
    """Where the points of a cell are listed; cells may share a list."""
    mixed = mix64(np.uint64(x) * GOLDEN ^ mix64(np.uint64(y) * GOLDEN ^ mix64(np.uint64(z))))
    return int(mixed & mask)


@kernel
def thin_in_order(place: Floats, radius: Floats, normal: Floats) -> Flags:
    """Keep places ``(N, 3)`` in order, each unless one that is kept lies within its ``radius (N,)``; flags ``(N,)``.

    Those whose ``normal (N, 3)`` points the other way do not matter. Dart throwing (Cook, "Stochastic sampling in
    computer graphics", ACM TOG 5(1), 1986); kept ones are found by the cells of a grid, whose numbers are hashed
    (Teschner et al., "Optimized spatial hashing", VMV 2003).
    """
    count = len(radius)
    kept = np.zeros(count, np.bool_)
    if count == 0:
        return kept
    size = radius.max()
    buckets = 1
    while buckets < 2 * count:
        buckets *= 2
    mask = np.uint64(buckets - 1)
    head, before = np.full(buckets, -1, np.int32), np.full(count, -1, np.int32)
    low = np.array([place[:, 0].min(), place[:, 1].min(), place[:, 2].min()])
    for i in range(count):
        x, y, z = (
            int((place[i, 0] - low[0]) / size),
            int((place[i, 1] - low[1]) / size),
            int((place[i, 2] - low[2]) / size),
        )
        free = True
        for cell in range(27):
            j = head[_bucket(x + cell % 3 - 1, y + cell // 3 % 3 - 1, z + cell // 9 - 1, mask)]
            while j >= 0 and free:
                a, b, c = place[j, 0] - place[i, 0], place[j, 1] - place[i, 1], place[j, 2] - place[i, 2]
                if np.sqrt(a * a + b * b + c * c) < radius[i]:
                    same_side = normal[i, 0] * normal[j, 0] + normal[i, 1] * normal[j, 1] + normal[i, 2] * normal[j, 2]
                    free = not same_side >= 0.0
                j = before[j]
            if not free:
                break
        if free:
            kept[i] = True
            own = _bucket(x, y, z, mask)
            before[i] = head[own]
            head[own] = i
    return kept
