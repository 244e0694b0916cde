"""Edges of a triangle mesh collapsed in order of the error that it makes.

Garland & Heckbert, "Surface simplification using quadric error metrics", SIGGRAPH 1997, quadrics weighted by area, with
planes across borders; a collapse that turns a triangle over or joins separate fans is not made.
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from reticula.core.arrays import Flags, Floats, Indices, Ints
from reticula.core.geometry.remesh.edge_heap import (
    EdgeHeap,
    is_in_heap,
    make_heap,
    move_in_heap,
    remove_from_heap,
    sink_top,
)
from reticula.core.geometry.remesh.quadrics import add_plane, best_position
from reticula.core.jit import inline, inline_making, kernel

__all__ = ["Collapsed", "Limits", "TriangleMesh", "collapse_edges"]

LEAST_COST = 1e-15
"""Errors are rounded to this, for shapes of size 1, so that rounding decides nothing between equal ones."""
STEEPEST = 0.2
"""The least cosine between a triangle's normals before and after a collapse."""


class TriangleMesh(NamedTuple):
    """What is simplified: ``triangle (T, 3)``, ``edges (E, 2)``, ``corner_edge (3T,)``, the corners around each point
    as ``ring_start (P+1,)`` and ``ring``, ``border (E,)`` edges, and ``fixed (P,)`` points that stay where they are.
    """

    triangle: Indices
    edges: Indices
    corner_edge: Indices
    ring_start: Indices
    ring: Indices
    border: Flags
    fixed: Flags


class Limits(NamedTuple):
    """When to stop: at ``triangles`` left, or before a collapse that errs by more than ``error`` (m).

    ``border_weight`` says how much planes across borders weigh.
    """

    triangles: int
    error: float
    border_weight: float


class Collapsed(NamedTuple):
    """What is left: positions and triangles, the ``leader (P,)`` that each point became, and which triangles are
    ``alive (T,)``.
    """

    position: Floats
    triangle: Indices
    leader: Indices
    alive: Flags


class _State(NamedTuple):
    """A mesh while its edges collapse. Corners around a point are a linked list: ``first``, ``after``, ``last``."""

    pos: Floats
    tri: Indices
    quadric: Floats
    area: Floats
    alive: Flags
    leader: Indices
    fixed: Flags
    on_border: Flags
    edge_of: Indices
    ends: Indices
    first: Indices
    after: Indices
    last: Indices


class _Scratch(NamedTuple):
    """Room for one collapse: the place ``at (3,)``, two normals, and ``mark (P,)`` with its newest ``stamp (1,)``."""

    at: Floats
    n: Floats
    m: Floats
    mark: Ints
    stamp: Ints
    touched: Indices
    edge_at: Indices


@inline
def _area_normal(pos: Floats, a: int, b: int, c: int, out: Floats) -> None:
    ux, uy, uz = pos[b, 0] - pos[a, 0], pos[b, 1] - pos[a, 1], pos[b, 2] - pos[a, 2]
    vx, vy, vz = pos[c, 0] - pos[a, 0], pos[c, 1] - pos[a, 1], pos[c, 2] - pos[a, 2]
    out[0], out[1], out[2] = uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx


@inline
def _length(n: Floats) -> float:
    return np.sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2])


@inline_making
def _quadrics(pos: Floats, mesh: TriangleMesh, border_weight: float) -> tuple[Floats, Floats]:
    """The quadric of each point ``(P, 10)``, and twice the area of the triangles around it ``(P,)``."""
    corners = mesh.triangle
    q, area, n = np.zeros((len(pos), 10)), np.zeros(len(pos)), np.empty(3)
    for t in range(len(corners)):
        a = corners[t, 0]
        _area_normal(pos, a, corners[t, 1], corners[t, 2], n)
        length = _length(n)
        if length == 0.0:
            continue
        x, y, z = n[0] / length, n[1] / length, n[2] / length
        d = -(x * pos[a, 0] + y * pos[a, 1] + z * pos[a, 2])
        for k in range(3):
            add_plane(q, corners[t, k], (x, y, z, d), length)
            area[corners[t, k]] += length
            if mesh.border[mesh.corner_edge[3 * t + k]]:
                _add_border(q, pos, (corners[t, k], corners[t, (k + 1) % 3]), (x, y, z), border_weight)
    return q, area


@inline
def _add_border(
    q: Floats, pos: Floats, ends: tuple[int, int], normal: tuple[float, float, float], border_weight: float
) -> None:
    """Add the plane through a border edge that stands upright on its triangle to both of its ends."""
    u, v = ends
    x, y, z = normal
    ex, ey, ez = pos[v, 0] - pos[u, 0], pos[v, 1] - pos[u, 1], pos[v, 2] - pos[u, 2]
    bx, by, bz = ey * z - ez * y, ez * x - ex * z, ex * y - ey * x
    size = np.sqrt(bx * bx + by * by + bz * bz)
    if size > 0.0:
        bx, by, bz = bx / size, by / size, bz / size
        o = -(bx * pos[u, 0] + by * pos[u, 1] + bz * pos[u, 2])
        add_plane(q, u, (bx, by, bz, o), border_weight * size * size)
        add_plane(q, v, (bx, by, bz, o), border_weight * size * size)


@inline_making
def _begin(positions: Floats, mesh: TriangleMesh, border_weight: float) -> _State:
    """A mesh before its first collapse."""
    points, faces = len(positions), len(mesh.triangle)
    pos = positions.copy()
    q, area = _quadrics(pos, mesh, border_weight)
    on_border = np.zeros(points, np.bool_)
    for e in range(len(mesh.edges)):
        if mesh.border[e]:
            on_border[mesh.edges[e, 0]] = True
            on_border[mesh.edges[e, 1]] = True
    first, last = np.full(points, -1, np.int32), np.full(points, -1, np.int32)
    after = np.full(3 * faces, -1, np.int32)
    for p in range(points):
        for k in range(mesh.ring_start[p], mesh.ring_start[p + 1]):
            c = mesh.ring[k]
            if first[p] < 0:
                first[p] = c
            else:
                after[last[p]] = c
            last[p] = c
    return _State(
        pos,
        mesh.triangle.copy(),
        q,
        area,
        np.ones(faces, np.bool_),
        np.arange(points).astype(np.int32),
        mesh.fixed.copy(),
        on_border,
        mesh.corner_edge.copy(),
        mesh.edges.copy(),
        first,
        after,
        last,
    )


@inline
def _cost(s: _State, p: int, r: int, at: Floats) -> float:
    """The error of collapsing an edge; infinite between two fixed points."""
    if s.fixed[p] and s.fixed[r]:
        return np.inf
    return np.rint(best_position(s.quadric, s.pos, p, r, s.fixed, at) / LEAST_COST) * LEAST_COST


@inline
def _keeps_topology(s: _State, p: int, r: int, room: _Scratch) -> bool:
    """The link condition: the ends have as many common neighbours as common triangles, one or two."""
    room.stamp[0] += 2
    stamp, mark = room.stamp[0], room.mark
    c = s.first[p]
    while c >= 0:
        t = c // 3
        if s.alive[t]:
            for k in range(3):
                mark[s.tri[t, k]] = stamp
        c = s.after[c]
    shared = common = 0
    c = s.first[r]
    while c >= 0:
        t = c // 3
        if s.alive[t]:
            holds = False
            for k in range(3):
                v = s.tri[t, k]
                holds = holds or v == p
                if v != p and v != r and mark[v] == stamp:
                    mark[v] = stamp + 1
                    common += 1
            if holds:
                shared += 1
        c = s.after[c]
    if common != shared or shared > 2 or shared == 0:
        return False
    return not (shared == 2 and s.on_border[p] and s.on_border[r])


@inline
def _turns_over(s: _State, own: int, other: int, room: _Scratch) -> bool:
    """Whether moving a point to where the edge collapses turns over a triangle that stays, or makes it a sliver."""
    pos, n, m, at = s.pos, room.n, room.m, room.at
    c = s.first[own]
    while c >= 0:
        t = c // 3
        if s.alive[t]:
            a, b, d = s.tri[t, 0], s.tri[t, 1], s.tri[t, 2]
            if a != other and b != other and d != other:
                _area_normal(pos, a, b, d, n)
                ox, oy, oz = pos[own, 0], pos[own, 1], pos[own, 2]
                pos[own, 0], pos[own, 1], pos[own, 2] = at[0], at[1], at[2]
                _area_normal(pos, a, b, d, m)
                pos[own, 0], pos[own, 1], pos[own, 2] = ox, oy, oz
                before, after = _length(n), _length(m)
                dot = n[0] * m[0] + n[1] * m[1] + n[2] * m[2]
                if dot < STEEPEST * before * after or (after < 1e-12 * before and before > 0.0):
                    return True
        c = s.after[c]
    return False


@inline
def _merge(s: _State, p: int, r: int, at: Floats) -> int:
    """Make ``r`` one with ``p``, which moves to ``at``; returns how many triangles that takes away."""
    s.leader[r] = p
    for i in range(3):
        s.pos[p, i] = at[i]
    for i in range(10):
        s.quadric[p, i] += s.quadric[r, i]
    s.area[p] += s.area[r]
    s.on_border[p] = s.on_border[p] or s.on_border[r]
    s.fixed[p] = s.fixed[p] or s.fixed[r]
    gone = 0
    c = s.first[r]
    while c >= 0:
        t = c // 3
        if s.alive[t]:
            if s.tri[t, 0] == p or s.tri[t, 1] == p or s.tri[t, 2] == p:
                s.alive[t] = False
                gone += 1
            else:
                s.tri[t, c - 3 * t] = p
        c = s.after[c]
    if s.last[r] >= 0:
        if s.first[p] < 0:
            s.first[p] = s.first[r]
        else:
            s.after[s.last[p]] = s.first[r]
        s.last[p] = s.last[r]
    _drop_dead_corners(s, p)
    return gone


@inline
def _drop_dead_corners(s: _State, p: int) -> None:
    before = -1
    c = s.first[p]
    while c >= 0:
        following = s.after[c]
        if s.alive[c // 3]:
            before = c
        elif before < 0:
            s.first[p] = following
        else:
            s.after[before] = following
        c = following
    s.last[p] = before


@inline
def _renew_edges(s: _State, p: int, edges: EdgeHeap, room: _Scratch) -> None:
    """Make edges one that now lead to the same point, and work out what those around ``p`` cost."""
    room.stamp[0] += 2
    stamp, mark = room.stamp[0], room.mark
    known = 0
    c = s.first[p]
    while c >= 0:
        t = c // 3
        k = c - 3 * t
        for side in range(2):
            corner = c if side == 0 else 3 * t + (k + 2) % 3
            v = s.tri[t, (k + 1) % 3] if side == 0 else s.tri[t, (k + 2) % 3]
            f = s.edge_of[corner]
            if mark[v] != stamp:
                mark[v] = stamp
                room.edge_at[v] = f
                s.ends[f, 0], s.ends[f, 1] = p, v
                room.touched[known] = f
                known += 1
            elif room.edge_at[v] != f:
                s.edge_of[corner] = room.edge_at[v]
                if is_in_heap(edges, f):
                    remove_from_heap(edges, f)
        c = s.after[c]
    for h in range(known):
        f = room.touched[h]
        if is_in_heap(edges, f):
            edges.cost[f] = _cost(s, p, s.ends[f, 0] + s.ends[f, 1] - p, room.at)
            move_in_heap(edges, f)


@inline
def _follow_leaders(leader: Indices) -> None:
    for p in range(len(leader)):
        r = p
        while leader[r] != r:
            r = leader[r]
        leader[p] = r


@inline
def _collapse(s: _State, edges: EdgeHeap, room: _Scratch, limits: Limits) -> None:
    """Collapse the cheapest edge until a limit is reached."""
    left = len(s.tri)
    while left > limits.triangles and edges.size[0] > 0:
        e = edges.heap[0]
        if edges.cost[e] == np.inf:
            break
        p, r = s.ends[e, 0], s.ends[e, 1]
        if s.leader[p] != p or s.leader[r] != r or p == r:
            remove_from_heap(edges, e)
            continue
        weight = (s.area[p] + s.area[r]) / 3.0
        if limits.error < np.inf and np.sqrt(edges.cost[e] / max(weight, 1e-300)) > limits.error:
            break
        if s.fixed[r]:
            p, r = r, p
        best_position(s.quadric, s.pos, p, r, s.fixed, room.at)
        if not _keeps_topology(s, p, r, room) or _turns_over(s, p, r, room) or _turns_over(s, r, p, room):
            edges.cost[e] = np.inf
            sink_top(edges)
            continue
        left -= _merge(s, p, r, room.at)
        remove_from_heap(edges, e)
        _renew_edges(s, p, edges, room)


@kernel
def collapse_edges(positions: Floats, mesh: TriangleMesh, limits: Limits) -> Collapsed:
    """Collapse edges, the cheapest first, until a limit is reached or no edge can be collapsed any more."""
    s = _begin(positions, mesh, limits.border_weight)
    points = len(positions)
    room = _Scratch(
        np.empty(3),
        np.empty(3),
        np.empty(3),
        np.full(points, -1, np.int64),
        np.zeros(1, np.int64),
        np.empty(points, np.int32),
        np.empty(points, np.int32),
    )
    cost = np.empty(len(mesh.edges))
    for e in range(len(cost)):
        cost[e] = _cost(s, s.ends[e, 0], s.ends[e, 1], room.at)
    edges = make_heap(cost)
    _collapse(s, edges, room, limits)
    _follow_leaders(s.leader)
    return Collapsed(s.pos, s.tri, s.leader, s.alive)
