"""Generalised winding numbers: how much of the view around a place a mesh covers, also where the mesh has holes.

1 inside of a closed mesh, 0 outside, in between near openings. Jacobson, Kavan & Sorkine-Hornung, "Robust
inside-outside segmentation using generalized winding numbers", SIGGRAPH 2013; far triangles are summed up as in Barill,
Dickson, Schmidt, Levin & Jacobson, "Fast winding numbers for soups and clouds", SIGGRAPH 2018, with two terms of the
expansion.
"""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np

from reticula.core.arrays import Floats, Indices
from reticula.core.geometry.mesh.geo import Geo, once_per_geo
from reticula.core.jit import inline, kernel, parallel_kernel, prange
from reticula.core.spatial.kdtree import Place
from reticula.core.spatial.surface import CHUNK, STACK, surface_of
from reticula.core.spatial.tree import Tree

__all__ = ["FAR", "Moments", "moments_of", "winding_numbers", "winding_one"]

FAR = 3.0
"""A node is summed up as one where its middle is farther away than this many of its radii."""


class Moments(NamedTuple):
    """Per node of the tree: area vector ``(M, 3)``, its first moment about the middle ``(M, 9)``, middle and radius
    ``(M, 4)``.
    """

    area: Floats
    first: Floats
    ball: Floats


@kernel
def _moments(tree: Tree) -> Moments:
    box, first, size, corner, _ = tree
    nodes = len(first)
    area, moment, ball, weight = np.zeros((nodes, 3)), np.zeros((nodes, 9)), np.zeros((nodes, 4)), np.zeros(nodes)
    for node in range(nodes - 1, -1, -1):
        if size[node]:
            for i in range(first[node], first[node] + size[node]):
                t = corner[i]
                n = 0.5 * np.cross(t[1] - t[0], t[2] - t[0])
                a = math.sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2])
                weight[node] += a
                for w in range(3):
                    area[node, w] += n[w]
                    ball[node, w] += a * (t[0, w] + t[1, w] + t[2, w]) / 3.0
        else:
            for child in range(first[node], first[node] + 2):
                weight[node] += weight[child]
                for w in range(3):
                    area[node, w] += area[child, w]
                    ball[node, w] += weight[child] * ball[child, w]
        for w in range(3):
            ball[node, w] = (
                ball[node, w] / weight[node] if weight[node] > 0.0 else 0.5 * (box[node, w] + box[node, w + 3])
            )
        r = 0.0
        for w in range(3):
            side = max(ball[node, w] - box[node, w], box[node, w + 3] - ball[node, w])
            r += side * side
        ball[node, 3] = math.sqrt(r)
        if size[node]:
            for i in range(first[node], first[node] + size[node]):
                t = corner[i]
                n = 0.5 * np.cross(t[1] - t[0], t[2] - t[0])
                for w in range(3):
                    off = (t[0, w] + t[1, w] + t[2, w]) / 3.0 - ball[node, w]
                    for v in range(3):
                        moment[node, 3 * v + w] += n[v] * off
        else:
            for child in range(first[node], first[node] + 2):
                for w in range(3):
                    off = ball[child, w] - ball[node, w]
                    for v in range(3):
                        moment[node, 3 * v + w] += moment[child, 3 * v + w] + area[child, v] * off
    return Moments(area, moment, ball)


@inline
def _solid_angle(t: Floats, at: Place) -> float:
    """Signed solid angle of a triangle. Van Oosterom & Strackee, IEEE Trans. Biomed. Eng. 30(2), 1983."""
    x, y, z = at
    ax, ay, az = t[0, 0] - x, t[0, 1] - y, t[0, 2] - z
    bx, by, bz = t[1, 0] - x, t[1, 1] - y, t[1, 2] - z
    cx, cy, cz = t[2, 0] - x, t[2, 1] - y, t[2, 2] - z
    a = math.sqrt(ax * ax + ay * ay + az * az)
    b = math.sqrt(bx * bx + by * by + bz * bz)
    c = math.sqrt(cx * cx + cy * cy + cz * cz)
    up = ax * (by * cz - bz * cy) + ay * (bz * cx - bx * cz) + az * (bx * cy - by * cx)
    down = a * b * c + (ax * bx + ay * by + az * bz) * c + (bx * cx + by * cy + bz * cz) * a
    down += (cx * ax + cy * ay + cz * az) * b
    return 2.0 * math.atan2(up, down) if up != 0.0 else 0.0


@inline
def winding_one(tree: Tree, moments: Moments, at: Place, far: float, stack: Indices) -> float:
    """Return the winding number about one place."""
    _, first, size, corner, _ = tree
    area, moment, ball = moments
    x, y, z = at
    depth, total = 1, 0.0
    stack[0] = 0
    while depth:
        depth -= 1
        node = stack[depth]
        rx, ry, rz = ball[node, 0] - x, ball[node, 1] - y, ball[node, 2] - z
        d2 = rx * rx + ry * ry + rz * rz
        reach = far * ball[node, 3]
        if d2 > reach * reach:
            d = math.sqrt(d2)
            d3 = d2 * d
            m = moment[node]
            trace = m[0] + m[4] + m[8]
            turned = rx * (m[0] * rx + m[1] * ry + m[2] * rz) + ry * (m[3] * rx + m[4] * ry + m[5] * rz)
            turned += rz * (m[6] * rx + m[7] * ry + m[8] * rz)
            total += (area[node, 0] * rx + area[node, 1] * ry + area[node, 2] * rz + trace) / d3
            total -= 3.0 * turned / (d3 * d2)
        elif size[node]:
            for i in range(first[node], first[node] + size[node]):
                total += _solid_angle(corner[i], at)
        else:
            stack[depth], stack[depth + 1] = first[node], first[node] + 1
            depth += 2
    return total / (4.0 * math.pi)


@parallel_kernel
def _winding(tree: Tree, moments: Moments, asked: Floats, far: float) -> Floats:
    out = np.zeros(len(asked))
    for chunk in prange((len(asked) + CHUNK - 1) // CHUNK):
        stack = np.empty(STACK, np.int32)
        for q in range(chunk * CHUNK, min(chunk * CHUNK + CHUNK, len(asked))):
            out[q] = winding_one(tree, moments, (asked[q, 0], asked[q, 1], asked[q, 2]), far, stack)
    return out


@once_per_geo
def moments_of(geo: Geo) -> tuple[Tree, Moments]:
    """Return the tree of a mesh with the sums of its nodes, built once; GeometryError if it has no faces."""
    tree = surface_of(geo).tree
    return tree, _moments(tree)


def winding_numbers(geo: Geo, places: Floats, *, exact: bool = False) -> Floats:
    """Return the winding number of a mesh about each of ``places (N, 3)``, ``(N,)``; GeometryError if it has no faces.

    Far triangles are summed up, which costs a few hundredths near the surface; ``exact`` asks all of them.
    """
    tree, moments = moments_of(geo)
    asked = np.ascontiguousarray(places, np.float64)
    far = math.inf if exact else FAR
    return _winding(tree, moments, asked, far)
