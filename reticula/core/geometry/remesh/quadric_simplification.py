"""Edges of a triangle mesh collapsed in order of the error that it makes."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import Flags, Floats, Indices
from reticula.core.jit import inline, kernel

__all__ = ["collapse_edges"]


@inline
def _add_plane(q: Floats, p: int, a: float, b: float, c: float, d: float, w: float) -> None:
    q[p, 0] += w * a * a
    q[p, 1] += w * a * b
    q[p, 2] += w * a * c
    q[p, 3] += w * a * d
    q[p, 4] += w * b * b
    q[p, 5] += w * b * c
    q[p, 6] += w * b * d
    q[p, 7] += w * c * c
    q[p, 8] += w * c * d
    q[p, 9] += w * d * d


@inline
def _error(q: Floats, p: int, r: int, x: float, y: float, z: float) -> float:
    """Summed quadric of two points at a place."""
    s = q[p, 9] + q[r, 9]
    s += 2.0 * ((q[p, 3] + q[r, 3]) * x + (q[p, 6] + q[r, 6]) * y + (q[p, 8] + q[r, 8]) * z)
    s += (q[p, 0] + q[r, 0]) * x * x + (q[p, 4] + q[r, 4]) * y * y + (q[p, 7] + q[r, 7]) * z * z
    s += 2.0 * ((q[p, 1] + q[r, 1]) * x * y + (q[p, 2] + q[r, 2]) * x * z + (q[p, 5] + q[r, 5]) * y * z)
    return max(s, 0.0)


@inline
def _best_position(q: Floats, pos: Floats, p: int, r: int, fixed: Flags, out: Floats) -> float:
    """Where the edge p r should collapse to, and the error that makes; a fixed end stays."""
    if fixed[p] or fixed[r]:
        k = p if fixed[p] else r
        for i in range(3):
            out[i] = pos[k, i]
        return _error(q, p, r, out[0], out[1], out[2])
    a, b, c = q[p, 0] + q[r, 0], q[p, 1] + q[r, 1], q[p, 2] + q[r, 2]
    e, f, g = q[p, 4] + q[r, 4], q[p, 5] + q[r, 5], q[p, 7] + q[r, 7]
    u, v, w = q[p, 3] + q[r, 3], q[p, 6] + q[r, 6], q[p, 8] + q[r, 8]
    c00, c01, c02 = e * g - f * f, c * f - b * g, b * f - c * e
    det = a * c00 + b * c01 + c * c02
    size = a + e + g
    if abs(det) > 1e-6 * size * size * size:
        c11, c12, c22 = a * g - c * c, b * c - a * f, a * e - b * b
        out[0] = -(c00 * u + c01 * v + c02 * w) / det
        out[1] = -(c01 * u + c11 * v + c12 * w) / det
        out[2] = -(c02 * u + c12 * v + c22 * w) / det
        far = near = 0.0
        for i in range(3):
            m = 0.5 * (pos[p, i] + pos[r, i])
            far += (out[i] - m) ** 2
            near += (pos[p, i] - pos[r, i]) ** 2
        if far <= 4.0 * near:
            return _error(q, p, r, out[0], out[1], out[2])
    least = np.inf
    best = 0.5
    for k in range(3):
        t = 0.5 if k == 0 else (0.0 if k == 1 else 1.0)
        s = _error(
            q,
            p,
            r,
            pos[p, 0] + t * (pos[r, 0] - pos[p, 0]),
            pos[p, 1] + t * (pos[r, 1] - pos[p, 1]),
            pos[p, 2] + t * (pos[r, 2] - pos[p, 2]),
        )
        if s < least:
            least, best = s, t
    for i in range(3):
        out[i] = pos[p, i] + best * (pos[r, i] - pos[p, i])
    return least


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


@inline
def _area_normal(pos: Floats, a: int, b: int, c: int, out: Floats) -> None:
    ux, uy, uz = pos[b, 0] - pos[a, 0], pos[b, 1] - pos[a, 1], pos[b, 2] - pos[a, 2]
    vx, vy, vz = pos[c, 0] - pos[a, 0], pos[c, 1] - pos[a, 1], pos[c, 2] - pos[a, 2]
    out[0], out[1], out[2] = uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx


@kernel
def collapse_edges(
    positions: Floats,
    tri: Indices,
    edges: Indices,
    corner_edge: Indices,
    ring_start: Indices,
    ring: Indices,
    border: Flags,
    fixed: Flags,
    target: int,
    most_error: float,
    border_weight: float,
) -> tuple[Floats, Indices, Indices, Flags]:
    """Collapse edges until ``target`` triangles are left or the next one errs by more than ``most_error`` (m).

    ``tri (T, 3)``; ``ring_start``, ``ring``: triangles around each point; ``border (E,)``; ``fixed (P,)`` points stay
    where they are. Returns positions, triangles, the surviving point of each point, and which triangles are left.
    Garland & Heckbert, "Surface simplification using quadric error metrics", SIGGRAPH 1997, quadrics weighted by area,
    with planes across borders; a collapse that turns a triangle over or joins separate fans is not made.
    """
    points, faces, count = len(positions), len(tri), len(edges)
    pos, tri = positions.copy(), tri.copy()
    q = np.zeros((points, 10))
    n, m, at = np.empty(3), np.empty(3), np.empty(3)
    area = np.zeros(points)
    for t in range(faces):
        a, b, c = tri[t, 0], tri[t, 1], tri[t, 2]
        _area_normal(pos, a, b, c, n)
        length = np.sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2])
        if length == 0.0:
            continue
        x, y, z = n[0] / length, n[1] / length, n[2] / length
        d = -(x * pos[a, 0] + y * pos[a, 1] + z * pos[a, 2])
        for k in range(3):
            _add_plane(q, tri[t, k], x, y, z, d, length)
            area[tri[t, k]] += length
            e = corner_edge[3 * t + k]
            if border[e]:
                u, v = tri[t, k], tri[t, (k + 1) % 3]
                ex, ey, ez = pos[v, 0] - pos[u, 0], pos[v, 1] - pos[u, 1], pos[v, 2] - pos[u, 2]
                bx, by, bz = ey * z - ez * y, ez * x - ex * z, ex * y - ey * x
                size = np.sqrt(bx * bx + by * by + bz * bz)
                if size > 0.0:
                    bx, by, bz = bx / size, by / size, bz / size
                    o = -(bx * pos[u, 0] + by * pos[u, 1] + bz * pos[u, 2])
                    _add_plane(q, u, bx, by, bz, o, border_weight * size * size)
                    _add_plane(q, v, bx, by, bz, o, border_weight * size * size)
    on_border = np.zeros(points, np.bool_)
    for e in range(count):
        if border[e]:
            on_border[edges[e, 0]] = True
            on_border[edges[e, 1]] = True
    first_corner = np.full(points, -1, np.int32)
    next_corner = np.full(3 * faces, -1, np.int32)
    last_corner = np.full(points, -1, np.int32)
    for p in range(points):
        for k in range(ring_start[p], ring_start[p + 1]):
            c = ring[k]
            if first_corner[p] < 0:
                first_corner[p] = c
            else:
                next_corner[last_corner[p]] = c
            last_corner[p] = c
    edge_of = corner_edge.copy()
    ends = edges.copy()
    cost = np.empty(count)
    heap, slot = np.arange(count).astype(np.int32), np.arange(count).astype(np.int32)
    for e in range(count):
        p, r = ends[e, 0], ends[e, 1]
        cost[e] = _best_position(q, pos, p, r, fixed, at) if not (fixed[p] and fixed[r]) else np.inf
    for i in range(count // 2 - 1, -1, -1):
        _sift_down(cost, heap, slot, i, count)
    alive = np.ones(faces, np.bool_)
    leader = np.arange(points).astype(np.int32)
    mark = np.full(points, -1, np.int64)
    stamp = 0
    left, size = faces, count
    touched, edge_at = np.empty(points, np.int32), np.empty(points, np.int32)
    while left > target and size > 0:
        e = heap[0]
        if cost[e] == np.inf:
            break
        p, r = ends[e, 0], ends[e, 1]
        if leader[p] != p or leader[r] != r or p == r:
            _remove_from_heap(cost, heap, slot, e, size)
            size -= 1
            continue
        weight = (area[p] + area[r]) / 3.0
        if most_error < np.inf and np.sqrt(cost[e] / max(weight, 1e-300)) > most_error:
            break
        if fixed[r]:
            p, r = r, p
        _best_position(q, pos, p, r, fixed, at)
        stamp += 2
        shared = 0
        good = True
        c = first_corner[p]
        while c >= 0:
            t = c // 3
            if alive[t]:
                for k in range(3):
                    mark[tri[t, k]] = stamp
            c = next_corner[c]
        c = first_corner[r]
        common = 0
        while c >= 0 and good:
            t = c // 3
            if alive[t]:
                holds = False
                for k in range(3):
                    v = tri[t, k]
                    holds = holds or v == p
                    if v != p and v != r and mark[v] == stamp:
                        mark[v] = stamp + 1
                        common += 1
                if holds:
                    shared += 1
            c = next_corner[c]
        if common != shared or shared > 2 or shared == 0:
            good = False
        if good and shared == 2 and on_border[p] and on_border[r]:
            good = False
        for end in range(2):
            own, other = (p, r) if end == 0 else (r, p)
            c = first_corner[own]
            while c >= 0 and good:
                t = c // 3
                if alive[t]:
                    a, b, d = tri[t, 0], tri[t, 1], tri[t, 2]
                    if a != other and b != other and d != other:
                        _area_normal(pos, a, b, d, n)
                        ox, oy, oz = pos[own, 0], pos[own, 1], pos[own, 2]
                        pos[own, 0], pos[own, 1], pos[own, 2] = at[0], at[1], at[2]
                        _area_normal(pos, a, b, d, m)
                        pos[own, 0], pos[own, 1], pos[own, 2] = ox, oy, oz
                        before = np.sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2])
                        after = np.sqrt(m[0] * m[0] + m[1] * m[1] + m[2] * m[2])
                        dot = n[0] * m[0] + n[1] * m[1] + n[2] * m[2]
                        if dot < 0.2 * before * after or (after < 1e-12 * before and before > 0.0):
                            good = False
                c = next_corner[c]
        if not good:
            cost[e] = np.inf
            _sift_down(cost, heap, slot, 0, size)
            continue
        leader[r] = p
        for i in range(3):
            pos[p, i] = at[i]
        for i in range(10):
            q[p, i] += q[r, i]
        area[p] += area[r]
        on_border[p] = on_border[p] or on_border[r]
        fixed_now = fixed[p] or fixed[r]
        fixed[p] = fixed_now
        c = first_corner[r]
        while c >= 0:
            t = c // 3
            if alive[t]:
                if tri[t, 0] == p or tri[t, 1] == p or tri[t, 2] == p:
                    alive[t] = False
                    left -= 1
                else:
                    tri[t, c - 3 * t] = p
            c = next_corner[c]
        if last_corner[r] >= 0:
            if first_corner[p] < 0:
                first_corner[p] = first_corner[r]
            else:
                next_corner[last_corner[p]] = first_corner[r]
            last_corner[p] = last_corner[r]
        before_c = -1
        c = first_corner[p]
        while c >= 0:
            following = next_corner[c]
            if not alive[c // 3]:
                if before_c < 0:
                    first_corner[p] = following
                else:
                    next_corner[before_c] = following
            else:
                before_c = c
            c = following
        last_corner[p] = before_c
        _remove_from_heap(cost, heap, slot, e, size)
        size -= 1
        stamp += 2
        known = 0
        c = first_corner[p]
        while c >= 0:
            t = c // 3
            k = c - 3 * t
            for side in range(2):
                corner = c if side == 0 else 3 * t + (k + 2) % 3
                v = tri[t, (k + 1) % 3] if side == 0 else tri[t, (k + 2) % 3]
                f = edge_of[corner]
                if mark[v] != stamp:
                    mark[v] = stamp
                    edge_at[v] = f
                    ends[f, 0], ends[f, 1] = p, v
                    touched[known] = f
                    known += 1
                elif edge_at[v] != f:
                    edge_of[corner] = edge_at[v]
                    if slot[f] < size and heap[slot[f]] == f:
                        _remove_from_heap(cost, heap, slot, f, size)
                        size -= 1
            c = next_corner[c]
        for h in range(known):
            f = touched[h]
            v = ends[f, 0] + ends[f, 1] - p
            if slot[f] >= size or heap[slot[f]] != f:
                continue
            cost[f] = _best_position(q, pos, p, v, fixed, at) if not (fixed[p] and fixed[v]) else np.inf
            _sift_up(cost, heap, slot, slot[f])
            _sift_down(cost, heap, slot, slot[f], size)
    for p in range(points):
        r = p
        while leader[r] != r:
            r = leader[r]
        leader[p] = r
    return pos, tri, leader, alive


@inline
def _remove_from_heap(cost: Floats, heap: Indices, slot: Indices, e: int, size: int) -> None:
    i = slot[e]
    last = heap[size - 1]
    slot[e] = size
    if last != e:
        heap[i] = last
        slot[last] = i
        _sift_up(cost, heap, slot, i)
        _sift_down(cost, heap, slot, slot[last], size - 1)
    heap[size - 1] = e
