"""Constrained Delaunay triangulation of flat polygons with holes, and points put into it."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import scipy
import shapely

from reticula.core.arrays import AnyArray, Floats, Indices, edge_keys
from reticula.core.errors import GeometryError
from reticula.core.jit import inline, kernel

__all__ = ["lattice_inside", "made_delaunay", "polygon_of", "triangulate_polygon"]


MANY = 64
"""Inner points from which on it is worth to look whether the plain triangulation will do."""


@inline
def _side(p: Floats, a: int, b: int, x: float, y: float) -> float:
    return (p[b, 0] - p[a, 0]) * (y - p[a, 1]) - (p[b, 1] - p[a, 1]) * (x - p[a, 0])


@inline
def _in_circle(p: Floats, a: int, b: int, c: int, d: int) -> float:
    """Positive where d lies in the circle through a, b, c (counter-clockwise)."""
    ax, ay = p[a, 0] - p[d, 0], p[a, 1] - p[d, 1]
    bx, by = p[b, 0] - p[d, 0], p[b, 1] - p[d, 1]
    cx, cy = p[c, 0] - p[d, 0], p[c, 1] - p[d, 1]
    a2, b2, c2 = ax * ax + ay * ay, bx * bx + by * by, cx * cx + cy * cy
    return ax * (by * c2 - b2 * cy) - ay * (bx * c2 - b2 * cx) + a2 * (bx * cy - by * cx)


@inline
def _opposite(tri: Indices, near: Indices, t: int, u: int) -> int:
    """The corner of ``u`` across from ``t``."""
    for k in range(3):
        if near[u, k] == t:
            return k
    return -1


@inline
def _flip(tri: Indices, near: Indices, t: int, k: int) -> None:
    """Turn the edge across from corner k of t inside the quad of both triangles."""
    u = near[t, k]
    m = _opposite(tri, near, t, u)
    a, b, c, d = tri[t, k], tri[t, (k + 1) % 3], tri[t, (k + 2) % 3], tri[u, m]
    ab, ca = near[t, (k + 2) % 3], near[t, (k + 1) % 3]
    bd, dc = near[u, (m + 1) % 3], near[u, (m + 2) % 3]
    tri[t, 0], tri[t, 1], tri[t, 2] = a, b, d
    near[t, 0], near[t, 1], near[t, 2] = bd, u, ab
    tri[u, 0], tri[u, 1], tri[u, 2] = a, d, c
    near[u, 0], near[u, 1], near[u, 2] = dc, ca, t
    if bd >= 0:
        near[bd, _opposite(tri, near, u, bd)] = t
    if ca >= 0:
        near[ca, _opposite(tri, near, t, ca)] = u


@inline
def _wrong(p: Floats, tri: Indices, near: Indices, t: int, k: int) -> bool:
    """Whether the edge across from corner k must be flipped: its quad is convex and not Delaunay."""
    u = near[t, k]
    if u < 0:
        return False
    d = tri[u, _opposite(tri, near, t, u)]
    a, b, c = tri[t, k], tri[t, (k + 1) % 3], tri[t, (k + 2) % 3]
    dx, dy = p[d, 0], p[d, 1]
    first, second = _side(p, a, b, dx, dy), _side(p, c, a, dx, dy)
    if first <= 0.0 or second <= 0.0:
        return False
    if _side(p, a, b, p[c, 0], p[c, 1]) <= 0.0 or _side(p, b, d, p[c, 0], p[c, 1]) <= 0.0:
        return True
    x = max(
        abs(p[a, 0] - dx), abs(p[a, 1] - dy), abs(p[b, 0] - dx), abs(p[b, 1] - dy), abs(p[c, 0] - dx), abs(p[c, 1] - dy)
    )
    return _in_circle(p, a, b, c, d) > 1e-12 * x * x * x * x


@kernel
def _legalise(p: Floats, tri: Indices, near: Indices, count: int, stack: Indices, top: int) -> None:
    """Flip until the triangles on the stack, and those touched on the way, are Delaunay (Lawson 1977)."""
    left = 200 * count + 10000
    while top > 0 and left > 0:
        top -= 1
        t = stack[top]
        for k in range(3):
            if _wrong(p, tri, near, t, k):
                u = near[t, k]
                _flip(tri, near, t, k)
                left -= 1
                if top + 2 < len(stack):
                    stack[top], stack[top + 1] = t, u
                    top += 2
                break


@kernel
def _insert(p: Floats, tri: Indices, near: Indices, count: int, points: Indices, stack: Indices) -> int:
    """Put points into the triangulation one by one; each is walked to from the last one. Returns the new count."""
    t = 0
    for i in range(len(points)):
        q = points[i]
        x, y = p[q, 0], p[q, 1]
        found = False
        for _ in range(4 * count + 16):
            outside = -1
            for k in range(3):
                if _side(p, tri[t, (k + 1) % 3], tri[t, (k + 2) % 3], x, y) < 0.0:
                    outside = k
                    if near[t, k] >= 0:
                        break
            if outside < 0:
                found = True
                break
            if near[t, outside] < 0:
                break
            t = near[t, outside]
        if not found:
            for s in range(count):
                if (
                    _side(p, tri[s, 0], tri[s, 1], x, y) >= 0.0
                    and _side(p, tri[s, 1], tri[s, 2], x, y) >= 0.0
                    and _side(p, tri[s, 2], tri[s, 0], x, y) >= 0.0
                ):
                    t, found = s, True
                    break
        if not found:
            continue
        a, b, c = tri[t, 0], tri[t, 1], tri[t, 2]
        na, nb, nc = near[t, 0], near[t, 1], near[t, 2]
        u, v = count, count + 1
        count += 2
        tri[t, 0], tri[t, 1], tri[t, 2] = q, b, c
        near[t, 0], near[t, 1], near[t, 2] = na, u, v
        tri[u, 0], tri[u, 1], tri[u, 2] = q, c, a
        near[u, 0], near[u, 1], near[u, 2] = nb, v, t
        tri[v, 0], tri[v, 1], tri[v, 2] = q, a, b
        near[v, 0], near[v, 1], near[v, 2] = nc, t, u
        if nb >= 0:
            near[nb, _opposite(tri, near, t, nb)] = u
        if nc >= 0:
            near[nc, _opposite(tri, near, t, nc)] = v
        stack[0], stack[1], stack[2] = t, u, v
        _legalise(p, tri, near, count, stack, 3)
    return count


def _conforming(polygon: shapely.Polygon, flat: Floats, loops: Sequence[AnyArray], inner: Floats) -> Indices | None:
    """The Delaunay triangles inside the polygon if they fill it and keep its border, which their number tells; else
    None.
    """
    points = np.concatenate([flat, inner])
    tri = scipy.spatial.Delaunay(points).simplices.astype(np.int32)
    corner = points[tri]
    middle = corner.mean(axis=1)
    shapely.prepare(polygon)
    tri = tri[shapely.contains_xy(polygon, middle[:, 0], middle[:, 1])]
    on_border = np.zeros(len(points), bool)
    on_border[np.concatenate(loops)] = True
    expected = 2 * len(inner) + int(on_border.sum()) - 2 + 2 * (len(loops) - 1)
    if len(tri) != expected:
        return None
    beside = tri[on_border[tri].sum(axis=1) >= 2]
    have = edge_keys(np.concatenate([beside[:, [0, 1]], beside[:, [1, 2]], beside[:, [2, 0]]]), len(points))
    border = np.concatenate([np.stack([loop, np.roll(loop, -1)], axis=1) for loop in loops])
    if not np.isin(edge_keys(border, len(points)), have).all():
        return None
    a, b, c = (points[tri[:, k]] for k in range(3))
    turn = (b[:, 0] - a[:, 0]) * (c[:, 1] - a[:, 1]) - (b[:, 1] - a[:, 1]) * (c[:, 0] - a[:, 0])
    tri[turn < 0] = tri[turn < 0][:, ::-1]
    return tri


def _neighbours(tri: Indices) -> Indices:
    """The triangle across from each corner ``(T, 3)``, -1 at borders."""
    near = np.full(tri.shape, -1, np.int32)
    tail, head = tri[:, [1, 2, 0]].reshape(-1).astype(np.int64), tri[:, [2, 0, 1]].reshape(-1).astype(np.int64)
    size = int(tri.max(initial=0)) + 1
    key, back = tail * size + head, head * size + tail
    order = np.argsort(key)
    at = np.minimum(np.searchsorted(key[order], back), max(len(key) - 1, 0))
    match = order[at]
    same = key[match] == back
    near.reshape(-1)[same] = (match // 3)[same]
    return near


def polygon_of(outline: AnyArray, holes: Sequence[AnyArray] = ()) -> shapely.Polygon:
    """Return a polygon ``(N, 2)`` with holes; raise GeometryError that says where it crosses itself."""
    polygon = shapely.Polygon(outline, holes)
    if not polygon.is_valid:
        why = shapely.is_valid_reason(polygon)
        raise GeometryError(f"the outline cannot be filled: {why.lower()}; give an outline that does not cross itself")
    return polygon


def triangulate_polygon(flat: Floats, loops: Sequence[AnyArray], inner: Floats | None = None) -> Indices:
    """Return the constrained Delaunay triangles ``(T, 3)`` of a polygon, counter-clockwise.

    ``flat (N, 2)`` holds the points of all ``loops`` (arrays of point numbers: first the outline, then holes), followed
    in the numbering by ``inner (M, 2)``, points inside. Border edges and points are kept exactly. Triangles come from
    GEOS; interior edges are flipped until they are Delaunay (Lawson, "Software for C1 surface interpolation", 1977),
    points are put in one by one. Where the plain Delaunay triangulation of many points (Qhull) holds all border edges
    already, it is that. Raises GeometryError if the outline crosses itself.
    """
    polygon = polygon_of(flat[loops[0]], [flat[loop] for loop in loops[1:]])
    if inner is not None and len(inner) >= MANY:
        made = _conforming(polygon, flat, loops, inner)
        if made is not None:
            return made
    pieces = shapely.get_parts(shapely.constrained_delaunay_triangles(polygon))
    coordinates = shapely.get_coordinates(pieces).reshape(-1, 4, 2)[:, :3]
    used = np.concatenate(loops)
    where = flat[used]
    table = np.concatenate([where, coordinates.reshape(-1, 2)]) + 0.0
    _, code = np.unique(table, axis=0, return_inverse=True)
    code = code.reshape(-1)
    owner = np.full(code.max() + 1, -1)
    owner[code[: len(used)][::-1]] = used[::-1]
    tri = owner[code[len(used) :]].reshape(-1, 3).astype(np.int32)
    return made_delaunay(flat, tri, inner)


def made_delaunay(flat: Floats, tri: Indices, inner: Floats | None = None) -> Indices:
    """Flip inner edges of triangles ``(T, 3)`` over ``flat (N, 2)`` until they are Delaunay, and put ``inner (M, 2)``
    in; they are turned counter-clockwise.
    """
    a, b, c = (flat[tri[:, k]] for k in range(3))
    turn = (b[:, 0] - a[:, 0]) * (c[:, 1] - a[:, 1]) - (b[:, 1] - a[:, 1]) * (c[:, 0] - a[:, 0])
    tri[turn < 0] = tri[turn < 0][:, ::-1]
    points = flat if inner is None or not len(inner) else np.concatenate([flat, inner])
    added = len(points) - len(flat)
    room = np.full((len(tri) + 2 * added, 3), -1, np.int32)
    near = room.copy()
    room[: len(tri)], near[: len(tri)] = tri, _neighbours(tri)
    stack = np.empty(8 * len(room) + 64, np.int32)
    stack[: len(tri)] = np.arange(len(tri))
    points = np.ascontiguousarray(points, np.float64)
    _legalise(points, room, near, len(tri), stack, len(tri))
    count = _insert(points, room, near, len(tri), len(flat) + np.arange(added, dtype=np.int32), stack)
    return room[:count]


def lattice_inside(polygon: shapely.Polygon, spacing: float) -> Floats:
    """Return points ``(M, 2)`` of a triangular lattice inside a polygon, at least 0.6 of the spacing away from its
    border.
    """
    low, high = np.reshape(polygon.bounds, (2, 2))
    rows = np.arange(int((high[1] - low[1]) / (spacing * np.sqrt(0.75))) + 2)
    columns = np.arange(int((high[0] - low[0]) / spacing) + 2)
    x = low[0] + spacing * (columns[None, :] + 0.5 * (rows[:, None] % 2))
    x[1::2] = x[1::2, ::-1]
    y = np.broadcast_to(low[1] + spacing * np.sqrt(0.75) * rows[:, None], x.shape)
    shrunk = polygon.buffer(-0.6 * spacing)
    if shrunk.is_empty:
        return np.zeros((0, 2))
    shapely.prepare(shrunk)
    inside = shapely.contains_xy(shrunk, x.reshape(-1), y.reshape(-1))
    return np.stack([x.reshape(-1)[inside], y.reshape(-1)[inside]], axis=1)
