"""All places that rays hit, not only the first."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from reticula.core.arrays import Floats, Indices, starts_from_sizes
from reticula.core.jit import inline, parallel_kernel, prange
from reticula.core.rows import unit
from reticula.core.spatial.surface import STACK, Places, Surface, enters, invert
from reticula.core.spatial.tree import Tree

__all__ = ["all_hits"]

SAME = 1e-9
"""Hits closer together than this share of their distance are one: the ray went through an edge of two triangles."""


class _Meeting(NamedTuple):
    """How far along a ray a triangle is met, and the weights of its corners there."""

    far: float
    weights: tuple[float, float, float]


class _Hits(NamedTuple):
    """Room for the hits of each ray: ``start (N+1,)``, and per hit its triangle, distance and weights."""

    start: Indices
    triangle: Indices
    far: Floats
    weight: Floats


@inline
def _meets(t: Floats, o: Floats, d: Floats) -> _Meeting:
    """Where a ray meets a triangle, at an infinite distance if it does not.

    Woop et al., JCGT 2(1), 2013.
    """
    kz = 0
    for w in range(1, 3):
        if abs(d[w]) > abs(d[kz]):
            kz = w
    kx, ky = (kz + 1) % 3, (kz + 2) % 3
    if d[kz] < 0.0:
        kx, ky = ky, kx
    sx, sy, sz = d[kx] / d[kz], d[ky] / d[kz], 1.0 / d[kz]
    az, bz, cz = t[0, kz] - o[kz], t[1, kz] - o[kz], t[2, kz] - o[kz]
    ax, ay = t[0, kx] - o[kx] - sx * az, t[0, ky] - o[ky] - sy * az
    bx, by = t[1, kx] - o[kx] - sx * bz, t[1, ky] - o[ky] - sy * bz
    cx, cy = t[2, kx] - o[kx] - sx * cz, t[2, ky] - o[ky] - sy * cz
    u, v, w3 = cx * by - cy * bx, ax * cy - ay * cx, bx * ay - by * ax
    total = u + v + w3
    if ((u < 0.0 or v < 0.0 or w3 < 0.0) and (u > 0.0 or v > 0.0 or w3 > 0.0)) or total == 0.0:
        return _Meeting(np.inf, (0.0, 0.0, 0.0))
    return _Meeting(sz * (u * az + v * bz + w3 * cz) / total, (u / total, v / total, w3 / total))


@parallel_kernel
def _collect(tree: Tree, origins: Floats, directions: Floats, span: tuple[float, float], hits: _Hits) -> Indices:
    """Count the hits of each ray within the ``span`` from begin to reach; where there is room for them, store them."""
    box, first, size, corner, order = tree
    begin, reach = span
    start, triangle, far, weight = hits
    counts = np.zeros(len(origins), np.int32)
    for q in prange(len(origins)):
        o, d = origins[q], directions[q]
        if d[0] == 0.0 and d[1] == 0.0 and d[2] == 0.0:
            continue
        stack, inverse = np.empty(STACK, np.int32), np.empty(3)
        invert(d, inverse)
        stack[0], depth, count = 0, 1, 0
        room, base = start[q + 1] - start[q], start[q]
        while depth:
            depth -= 1
            node = stack[depth]
            if enters(box, node, o, inverse, reach) == np.inf:
                continue
            if size[node] == 0:
                stack[depth], stack[depth + 1] = first[node], first[node] + 1
                depth += 2
                continue
            for i in range(first[node], first[node] + size[node]):
                s, weights = _meets(corner[i], o, d)
                if not begin <= s <= reach or s == np.inf:
                    continue
                if count < room:
                    k = base + count
                    triangle[k], far[k] = order[i], s
                    weight[k, 0], weight[k, 1], weight[k, 2] = weights
                count += 1
        counts[q] = count
    return counts


def all_hits(
    surface: Surface, origins: Floats, directions: Floats, reach: float = np.inf, begin: float = 0.0
) -> tuple[Indices, Places]:
    """Return all places that rays hit between ``begin`` and ``reach`` m, nearest first: starts ``(N+1,)`` and places.

    A ray through an edge or point that triangles share hits once.
    """
    o, d = np.ascontiguousarray(origins, np.float64), unit(np.ascontiguousarray(directions, np.float64))
    asked = (surface.tree, o, d, (float(begin), float(reach)))
    none = _Hits(np.zeros(len(o) + 1, np.int32), np.empty(0, np.int32), np.empty(0), np.empty((0, 3)))
    start = starts_from_sizes(_collect(*asked, none))
    total = int(start[-1])
    triangle, far, weight = np.empty(total, np.int32), np.empty(total), np.empty((total, 3))
    _collect(*asked, _Hits(start, triangle, far, weight))
    ray = np.repeat(np.arange(len(o)), np.diff(start))
    sort = np.lexsort((triangle, far, ray))
    triangle, far, weight, ray = triangle[sort], far[sort], weight[sort], ray[sort]
    new = np.ones(total, bool)
    new[1:] = (ray[1:] != ray[:-1]) | (far[1:] - far[:-1] > SAME * np.maximum(far[1:], 1e-300))
    triangle, far, weight, ray = triangle[new], far[new], weight[new], ray[new]
    sizes = np.bincount(ray, minlength=len(o))
    return starts_from_sizes(sizes), Places(triangle, weight, o[ray] + far[:, None] * d[ray], far)
