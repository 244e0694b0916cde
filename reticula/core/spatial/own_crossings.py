"""Where triangles of a surface cross others of the same one, or lie on them."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats, Indices
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.jit import inline, kernel, parallel_kernel, prange
from reticula.core.spatial.crossings import meeting_segments, near_pairs
from reticula.core.spatial.surface import surface_of

__all__ = ["own_crossing_segments"]

SHORT = 1e-9
"""Triangles of one surface that meet in less than this share of its size only touch."""
APART, CROSS, FLAT = 0, 1, 2


@inline
def _sides(a: Floats, b: Floats, near: float) -> tuple[int, int]:
    """How many corners of b lie above and below the plane of a, farther than ``near``; (0, 3) if a has no area."""
    ux, uy, uz = a[1, 0] - a[0, 0], a[1, 1] - a[0, 1], a[1, 2] - a[0, 2]
    vx, vy, vz = a[2, 0] - a[0, 0], a[2, 1] - a[0, 1], a[2, 2] - a[0, 2]
    nx, ny, nz = uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx
    slack = near * np.sqrt(nx * nx + ny * ny + nz * nz)
    above = below = 0
    if slack == 0.0:
        return 0, 3
    for k in range(3):
        height = nx * (b[k, 0] - a[0, 0]) + ny * (b[k, 1] - a[0, 1]) + nz * (b[k, 2] - a[0, 2])
        above += height > slack
        below += height < -slack
    return above, below


@parallel_kernel
def _kinds(asked: Floats, theirs: Floats, pairs: Indices, near: float) -> AnyArray:
    """Whether the triangles of each pair may cross, lie in one plane, or do neither ``(N,)``."""
    out = np.empty(len(pairs), np.int8)
    for k in prange(len(pairs)):
        a, b, kind = asked[pairs[k, 0]], theirs[pairs[k, 1]], CROSS
        for turn in range(2):
            above, below = _sides(a, b, near) if turn == 0 else _sides(b, a, near)
            if above + below == 0:
                kind = FLAT if kind == CROSS else kind
            elif above + below >= 2 and (above == 0 or below == 0):
                kind = APART
        out[k] = kind
    return out


@inline
def _clip(t: Floats, n: Floats, p: Floats, q: Floats) -> tuple[float, float]:
    """From where to where along ``p`` to ``q`` a segment in the plane of a triangle lies in it; the second is less if
    nowhere.
    """
    low, high = 0.0, 1.0
    for i in range(3):
        a, b = t[i], t[(i + 1) % 3]
        ux, uy, uz = b[0] - a[0], b[1] - a[1], b[2] - a[2]
        x, y, z = n[1] * uz - n[2] * uy, n[2] * ux - n[0] * uz, n[0] * uy - n[1] * ux
        s = x * (p[0] - a[0]) + y * (p[1] - a[1]) + z * (p[2] - a[2])
        e = x * (q[0] - a[0]) + y * (q[1] - a[1]) + z * (q[2] - a[2])
        length = np.sqrt(x * x + y * y + z * z)
        slack = 1e-12 * length * length
        s, e = s + slack, e + slack
        if s < 0.0 and e < 0.0:
            return 1.0, 0.0
        if s < 0.0:
            low = max(low, s / (s - e))
        elif e < 0.0:
            high = min(high, s / (s - e))
    return low, high


@kernel
def _flat_segments(asked: Floats, theirs: Floats, pairs: Indices) -> tuple[Indices, Floats]:
    """The sides of their triangles within asked ones in one plane: the pair ``(M,)`` and the ends ``(M, 2, 3)``."""
    owner, ends = np.empty(3 * len(pairs), np.int32), np.empty((3 * len(pairs), 2, 3))
    count = 0
    for k in range(len(pairs)):
        a, b = asked[pairs[k, 0]], theirs[pairs[k, 1]]
        n = np.cross(a[1] - a[0], a[2] - a[0])
        n = n / np.sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2])
        for i in range(3):
            p, q = b[i], b[(i + 1) % 3]
            low, high = _clip(a, n, p, q)
            if low < high:
                owner[count] = k
                ends[count, 0] = p if low == 0.0 else p + low * (q - p)
                ends[count, 1] = q if high == 1.0 else p + high * (q - p)
                count += 1
    return owner[:count].copy(), ends[:count].copy()


def own_crossing_segments(geo: Geo, triangles: Floats, point: AnyArray, size: float) -> tuple[Indices, Floats]:
    """Return where ``triangles (N, 3, 3)`` of a mesh, with its points ``(N, 3)``, cross other faces of it: the triangle
    ``(M,)`` and the segment ``(M, 2, 3)``.

    Triangles with a common edge do not cross. Of one that lies on others in its plane, the segments are their sides
    within it. Meetings shorter than 1e-9 of ``size`` do not count.
    """
    surface = surface_of(geo)
    asked, near = np.ascontiguousarray(triangles), SHORT * size
    pairs = near_pairs(surface.tree, asked)
    pairs = pairs[~_share_an_edge(point, surface.point, pairs)]
    theirs = np.ascontiguousarray(geo.positions[surface.point])
    kind = _kinds(asked, theirs, pairs, near)
    cross, flat = pairs[kind == CROSS], pairs[kind == FLAT]
    found = meeting_segments(np.ascontiguousarray(asked[cross[:, 0]]), np.ascontiguousarray(theirs[cross[:, 1]]))
    row, sides = _flat_segments(asked, theirs, flat)
    owner = np.concatenate([cross[:, 0], flat[row, 0]])
    found = np.concatenate([found, sides])
    real = np.linalg.norm(found[:, 1] - found[:, 0], axis=1) > near
    return owner[real], found[real]


@parallel_kernel
def _share_an_edge(asked: Indices, theirs: Indices, pairs: Indices) -> Flags:
    """Whether triangles, by their points ``(N, 3)`` and ``(T, 3)``, have two points in common, or are one ``(M,)``."""
    out = np.empty(len(pairs), np.bool_)
    for k in prange(len(pairs)):
        common = 0
        for i in range(3):
            for j in range(3):
                common += asked[pairs[k, 0], i] == theirs[pairs[k, 1], j]
        out[k] = common >= 2
    return out
