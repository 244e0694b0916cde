"""Where triangles of one surface cross those of another."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Floats, Indices
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.growing import with_room
from reticula.core.jit import inline, kernel, parallel_kernel, prange
from reticula.core.spatial.surface import STACK, surface_of
from reticula.core.spatial.tree import Tree

__all__ = ["crossing_segments", "meeting_segments", "near_pairs"]


@kernel
def near_pairs(tree: Tree, asked: Floats) -> Indices:
    """Pairs (asked triangle, triangle of the tree) whose boxes overlap ``(N, 2)``."""
    box, first, size, corner, order = tree
    pairs, count = np.empty((1024, 2), np.int32), 0
    stack = np.empty(STACK, np.int32)
    low, high = np.empty(3), np.empty(3)
    for q in range(len(asked)):
        for w in range(3):
            low[w] = min(asked[q, 0, w], asked[q, 1, w], asked[q, 2, w])
            high[w] = max(asked[q, 0, w], asked[q, 1, w], asked[q, 2, w])
        stack[0] = 0
        depth = 1
        while depth:
            depth -= 1
            node = stack[depth]
            apart = False
            for w in range(3):
                apart = apart or box[node, w] > high[w] or box[node, w + 3] < low[w]
            if apart:
                continue
            if size[node] == 0:
                stack[depth], stack[depth + 1] = first[node], first[node] + 1
                depth += 2
                continue
            for i in range(first[node], first[node] + size[node]):
                t = corner[i]
                apart = False
                for w in range(3):
                    apart = apart or min(t[0, w], t[1, w], t[2, w]) > high[w] or max(t[0, w], t[1, w], t[2, w]) < low[w]
                if apart:
                    continue
                pairs = with_room(pairs, count + 1)
                pairs[count, 0], pairs[count, 1] = q, order[i]
                count += 1
    return pairs[:count].copy()


@inline
def _height(t: Floats, x: float, y: float, z: float) -> float:
    ux, uy, uz = t[1, 0] - t[0, 0], t[1, 1] - t[0, 1], t[1, 2] - t[0, 2]
    vx, vy, vz = t[2, 0] - t[0, 0], t[2, 1] - t[0, 1], t[2, 2] - t[0, 2]
    nx, ny, nz = uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx
    return nx * (x - t[0, 0]) + ny * (y - t[0, 1]) + nz * (z - t[0, 2])


@inline
def _within(t: Floats, x: float, y: float, z: float) -> bool:
    """Whether a place in the plane of a triangle lies in it, within rounding."""
    ux, uy, uz = t[1, 0] - t[0, 0], t[1, 1] - t[0, 1], t[1, 2] - t[0, 2]
    vx, vy, vz = t[2, 0] - t[0, 0], t[2, 1] - t[0, 1], t[2, 2] - t[0, 2]
    wx, wy, wz = x - t[0, 0], y - t[0, 1], z - t[0, 2]
    uu, uv, vv = ux * ux + uy * uy + uz * uz, ux * vx + uy * vy + uz * vz, vx * vx + vy * vy + vz * vz
    wu, wv = wx * ux + wy * uy + wz * uz, wx * vx + wy * vy + wz * vz
    d = uu * vv - uv * uv
    if d <= 0.0:
        return False
    a, b = (wu * vv - wv * uv) / d, (wv * uu - wu * uv) / d
    return a >= -1e-9 and b >= -1e-9 and a + b <= 1.0 + 1e-9


@inline
def _edges_through(a: Floats, b: Floats, found: Floats, count: int) -> int:
    """Add the places where edges of a go through b. Ends are taken in one order, whichever triangle asks."""
    for i in range(3):
        j = (i + 1) % 3
        p, q = a[i], a[j]
        swap = p[0] > q[0] or (p[0] == q[0] and (p[1] > q[1] or (p[1] == q[1] and p[2] > q[2])))
        if swap:
            p, q = q, p
        s, t = _height(b, p[0], p[1], p[2]), _height(b, q[0], q[1], q[2])
        if s == t or (s > 0.0 and t > 0.0) or (s < 0.0 and t < 0.0):
            continue
        g = s / (s - t)
        x, y, z = p[0] + g * (q[0] - p[0]), p[1] + g * (q[1] - p[1]), p[2] + g * (q[2] - p[2])
        if _within(b, x, y, z):
            found[count, 0], found[count, 1], found[count, 2] = x, y, z
            count += 1
    return count


@parallel_kernel
def meeting_segments(a: Floats, b: Floats) -> Floats:
    """The segment in which triangles meet ``(N, 2, 3)``; both ends equal where they do not."""
    out = np.zeros((len(a), 2, 3))
    for k in prange(len(a)):
        found = np.empty((6, 3))
        count = _edges_through(a[k], b[k], found, 0)
        count = _edges_through(b[k], a[k], found, count)
        best = 0.0
        for i in range(count):
            for j in range(i):
                x, y, z = found[i, 0] - found[j, 0], found[i, 1] - found[j, 1], found[i, 2] - found[j, 2]
                far = x * x + y * y + z * z
                if far > best:
                    best = far
                    out[k, 0], out[k, 1] = found[j], found[i]
    return out


def crossing_segments(triangles: Floats, other: Geo) -> tuple[Indices, Floats]:
    """Return where ``triangles (N, 3, 3)`` cross the faces of ``other``: the triangle ``(M,)`` and the segment ``(M,
    2, 3)``.

    Triangles in one plane do not cross. Ends on an edge are the same to the bit for both triangles beside it.
    """
    surface = surface_of(other)
    tree = surface.tree
    pairs = near_pairs(tree, np.ascontiguousarray(triangles))
    theirs = other.positions[surface.point[pairs[:, 1]]]
    found = meeting_segments(np.ascontiguousarray(triangles[pairs[:, 0]]), np.ascontiguousarray(theirs))
    real = (found[:, 0] != found[:, 1]).any(axis=1)
    return pairs[real, 0], found[real]
