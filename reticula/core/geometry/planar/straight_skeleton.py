"""Polygons shrunk past the point where edges vanish and parts come apart, with the areas their edges sweep."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from reticula.core.arrays import Floats, Indices
from reticula.core.geometry.mesh.adjacency import find_root, group_by
from reticula.core.geometry.planar.crossing_limits import plane_axes
from reticula.core.geometry.planar.wavefront import (
    AFTER,
    HALVES,
    HEIGHT,
    NODES,
    RIGHT,
    SOURCE,
    VERTICES,
    Wave,
    close_vertex,
    move_inwards,
    new_wave,
    position,
)
from reticula.core.jit import inline, inline_making, kernel

__all__ = ["ShrunkFaces", "shrink_faces"]

HELD = 0.999
"""A polygon shrinks to at most this share of the distance at which nothing of it is left."""
EXACT = 1e-6
"""Areas swept and left over must add up to the polygon's within this share."""


class ShrunkFaces(NamedTuple):
    """What polygons become when all their edges move inwards.

    ``place (N, 3)`` new points, ``source (N,)`` the corner whose values each has. ``loop_face (L,)``, ``loop_start``,
    ``loop_point`` the polygons left inside; ``ring_corner (R,)``, ``ring_start``, ``ring_point`` the area swept by the
    edge from each corner on, that edge first. Points below 0 are corners: ``-1 - corner``. ``reached (S,)`` how
    far each face came, in m; -1 where the polygon could not be followed and nothing was made.
    """

    place: Floats
    source: Indices
    loop_face: Indices
    loop_start: Indices
    loop_point: Indices
    ring_corner: Indices
    ring_start: Indices
    ring_point: Indices
    reached: Floats


class _Room(NamedTuple):
    """A result that is being filled, and what is ``used``: points, loops, corners of loops, rings, corners of rings."""

    made: ShrunkFaces
    used: Indices


@inline
def _make_one(wave: Wave, a: int, b: int) -> None:
    """Let two nodes in one place be the same, unless both are corners of the polygon."""
    one, two = find_root(wave.events.same, a), find_root(wave.events.same, b)
    p, q = wave.events.place[one], wave.events.place[two]
    if one != two and abs(p[0] - q[0]) <= wave.near and abs(p[1] - q[1]) <= wave.near:
        if two >= len(wave.offset):
            wave.events.same[two] = one
        elif one >= len(wave.offset):
            wave.events.same[one] = two


@inline_making
def _stop(wave: Wave, far: float) -> Indices:
    """End all corners where they are now; returns per corner of the wave the node it ended at, -1 if it was gone."""
    last = wave.used[VERTICES]
    ends = np.full(last, -1, np.int32)
    for v in range(last):
        if wave.alive[v]:
            node = wave.used[NODES]
            wave.used[NODES] += 1
            flat = position(wave, v, far)
            place = wave.events.place
            place[node, 0], place[node, 1], place[node, 2], place[node, 3] = flat[0], flat[1], wave.at[v, HEIGHT], far
            wave.events.source[node] = wave.link[v, SOURCE]
            ends[v] = node
    for v in range(last):
        if ends[v] >= 0:
            close_vertex(wave, v, ends[v])
    for v in range(last):
        if ends[v] >= 0:
            _make_one(wave, ends[v], ends[wave.link[v, AFTER]])
    for v in range(last):
        if ends[v] >= 0:
            h = wave.used[HALVES]
            wave.used[HALVES] += 1
            half = wave.events.half
            half[h, 0], half[h, 1], half[h, 2] = wave.link[v, RIGHT], ends[wave.link[v, AFTER]], ends[v]
    return ends


@inline_making
def _swept(wave: Wave, sides: tuple[Indices, Indices], edge: int, chain: Indices) -> int:
    """Write the nodes around the area an edge swept, its own ends first; returns how many, 0 if they do not close.

    ``sides`` lists the ways beside each edge: starts and ways.
    """
    n, same, half = len(wave.offset), wave.events.same, wave.events.half
    mine = np.empty(sides[0][edge + 1] - sides[0][edge], np.int32)
    count = 0
    for k in range(sides[0][edge], sides[0][edge + 1]):
        h = sides[1][k]
        if find_root(same, half[h, 1]) != find_root(same, half[h, 2]):
            mine[count] = h
            count += 1
    first, at = find_root(same, edge), find_root(same, (edge + 1) % n)
    chain[0], chain[1] = first, at
    size = 2
    for _ in range(count):
        found = -1
        for m in range(count):
            if mine[m] >= 0 and find_root(same, half[mine[m], 1]) == at:
                found = m
                break
        if found < 0:
            return 0
        at = find_root(same, half[mine[found], 2])
        mine[found] = -1
        if at == first:
            break
        chain[size] = at
        size += 1
    return size if at == first else 0


@inline
def _area(wave: Wave, nodes: Indices, size: int) -> float:
    """Signed area of a polygon of nodes."""
    place, total = wave.events.place, 0.0
    a = nodes[0]
    for k in range(1, size - 1):
        b, c = nodes[k], nodes[k + 1]
        total += (place[b, 0] - place[a, 0]) * (place[c, 1] - place[a, 1])
        total -= (place[b, 1] - place[a, 1]) * (place[c, 0] - place[a, 0])
    return 0.5 * total


@inline
def _write(room: _Room, wave: Wave, nodes: Indices, number: Indices, first: int, into: tuple[Indices, int]) -> int:
    """Write a polygon's nodes as points, new ones on first use; returns where the next goes."""
    out, at = into
    for k in range(len(nodes)):
        node = nodes[k]
        if node < len(wave.offset):
            out[at] = -1 - (first + node)
        else:
            if number[node] < 0:
                number[node] = room.used[0]
                for i in range(3):
                    room.made.place[room.used[0], i] = wave.events.place[node, i]
                room.made.source[room.used[0]] = first + wave.events.source[node]
                room.used[0] += 1
            out[at] = number[node]
        at += 1
    return at


@inline_making
def _collect(wave: Wave, ends: Indices, face: int, first: int, room: _Room) -> bool:
    """Write what has become of a face; returns whether the areas add up, else nothing is kept."""
    before = room.used.copy()
    n, same = len(wave.offset), wave.events.same
    number = np.full(wave.used[NODES], -1, np.int32)
    chain = np.empty(wave.used[HALVES] + 4, np.int32)
    whole = _area(wave, np.arange(n).astype(np.int32), n)
    total, good = 0.0, True
    seen = np.zeros(len(ends), np.bool_)
    for v in range(len(ends)):
        if ends[v] < 0 or seen[v]:
            continue
        size, u = 0, v
        while not seen[u]:
            seen[u] = True
            chain[size] = find_root(same, ends[u])
            if size == 0 or chain[size] != chain[size - 1]:
                size += 1
            u = wave.link[u, AFTER]
        if size > 1 and chain[size - 1] == chain[0]:
            size -= 1
        if size < 3:
            continue
        area = _area(wave, chain, size)
        total += area
        good = good and area >= -EXACT * abs(whole)
        room.used[2] = _write(room, wave, chain[:size], number, first, (room.made.loop_point, room.used[2]))
        room.made.loop_face[room.used[1]] = face
        room.used[1] += 1
        room.made.loop_start[room.used[1]] = room.used[2]
    sides = group_by(wave.events.half[: wave.used[HALVES], 0].copy(), n)
    for edge in range(n):
        if wave.line[edge, 0] == 0.0 and wave.line[edge, 1] == 0.0:
            continue
        size = _swept(wave, sides, edge, chain)
        area = _area(wave, chain, size)
        total += area
        good = good and size > 2 and area >= -EXACT * abs(whole)
        room.used[4] = _write(room, wave, chain[:size], number, first, (room.made.ring_point, room.used[4]))
        room.made.ring_corner[room.used[3]] = first + edge
        room.used[3] += 1
        room.made.ring_start[room.used[3]] = room.used[4]
    if not good or abs(total - whole) > EXACT * abs(whole):
        room.used[:] = before
        return False
    return True


@inline_making
def _new_room(corners: int, faces: int) -> _Room:
    """Room for what ``corners`` of ``faces`` may become at most."""
    most = 8 * corners + 16 * faces
    made = ShrunkFaces(
        np.empty((most, 3)),
        np.empty(most, np.int32),
        np.empty(most, np.int32),
        np.zeros(most + 1, np.int32),
        np.empty(most, np.int32),
        np.empty(corners, np.int32),
        np.zeros(corners + 1, np.int32),
        np.empty(5 * most, np.int32),
        np.full(faces, -1.0),
    )
    return _Room(made, np.zeros(5, np.int64))


@inline_making
def _trimmed(room: _Room) -> ShrunkFaces:
    """What is filled of a result."""
    made, used = room
    return ShrunkFaces(
        made.place[: used[0]].copy(),
        made.source[: used[0]].copy(),
        made.loop_face[: used[1]].copy(),
        made.loop_start[: used[1] + 1].copy(),
        made.loop_point[: used[2]].copy(),
        made.ring_corner[: used[3]].copy(),
        made.ring_start[: used[3] + 1].copy(),
        made.ring_point[: used[4]].copy(),
        made.reached,
    )


@kernel
def shrink_faces(at: Floats, face_start: Indices, normals: Floats, faces: Indices, far: Floats) -> ShrunkFaces:
    """Move all edges of some ``faces (S,)`` inwards by ``far (S,)``, in m, going on past edge and split events.

    ``at (C, 3)`` places of the corners, ``normals (F, 3)`` unit. A face that would be used up is held just before.
    Points keep the distance from the face's plane that their corner had. The method is that of
    :func:`~reticula.core.geometry.planar.wavefront.move_inwards`.
    """
    corners = 0
    for s in range(len(faces)):
        corners += face_start[faces[s] + 1] - face_start[faces[s]]
    room = _new_room(corners, len(faces))
    for s in range(len(faces)):
        f = faces[s]
        first, size = face_start[f], face_start[f + 1] - face_start[f]
        axes = plane_axes(normals[f])
        flat, height = np.zeros((size, 2)), np.zeros(size)
        for i in range(size):
            for m in range(3):
                away = at[first + i, m] - at[first, m]
                height[i] += away * normals[f, m]
                for k in range(2):
                    flat[i, k] += away * axes[k, m]
        most = move_inwards(new_wave(flat, height), np.inf)
        if most <= 0.0:
            continue
        distance = min(far[s], HELD * most)
        wave = new_wave(flat, height)
        if move_inwards(wave, distance) < 0.0:
            continue
        begin = room.used[0]
        if _collect(wave, _stop(wave, distance), f, first, room):
            room.made.reached[s] = distance
            for p in range(begin, room.used[0]):
                x, y, h = room.made.place[p, 0], room.made.place[p, 1], room.made.place[p, 2]
                for m in range(3):
                    room.made.place[p, m] = at[first, m] + x * axes[0, m] + y * axes[1, m] + h * normals[f, m]
    return _trimmed(room)
