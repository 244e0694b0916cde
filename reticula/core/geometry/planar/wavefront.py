"""A polygon whose edges all move inwards at the same speed: its corners, when they meet, and what becomes of them."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from reticula.core.arrays import Flags, Floats, Indices
from reticula.core.geometry.mesh.adjacency import find_root
from reticula.core.jit import inline, inline_making

__all__ = ["Events", "Wave", "close_vertex", "move_inwards", "new_wave", "position"]

Place = tuple[float, float]

FOLDED = 1e-12
"""Where edges fold back on each other (1 + cosine of the angle between their normals), the corner has no speed."""
X, Y, HEIGHT, SINCE, SPEED_X, SPEED_Y, EDGE_TIME, SPLIT_TIME = range(8)
BEFORE, AFTER, LEFT, RIGHT, NODE, SOURCE, PART, SPLIT_FROM, SPLIT_TO = range(9)
NODES, HALVES, VERTICES, PARTS = range(4)


class Events(NamedTuple):
    """What happened so far: meeting places and the ways between them.

    ``place (N, 4)`` x, y, height and time of each node, ``source (N,)`` the corner whose values it has, ``same (N,)``
    parents of nodes that are one; ``half (H, 3)`` the ways as sides of the area an edge sweeps: edge, from, to.
    """

    place: Floats
    source: Indices
    same: Indices
    half: Indices


class Wave(NamedTuple):
    """The polygon as it is now.

    ``line (n, 4)`` per edge its direction and unit normal inwards, ``offset (n,)`` the line's place along it at time 0;
    ``at (V, 8)`` and ``link (V, 9)`` per corner, by the columns named above; ``due (V,)`` when something happens to a
    corner, inf once it is not ``alive``; which are ``folded`` back and ``hollow (V,)``; ``used`` counts
    nodes, halves, corners and parts; ``near`` the length below which two places are one.
    """

    line: Floats
    offset: Floats
    at: Floats
    link: Indices
    due: Floats
    alive: Flags
    folded: Flags
    hollow: Flags
    used: Indices
    near: float
    events: Events


@inline_making
def new_wave(flat: Floats, height: Floats) -> Wave:
    """The polygon with corners ``flat (n, 2)`` at time 0; edges without length are left out."""
    n = len(flat)
    line, offset = np.zeros((n, 4)), np.zeros(n)
    size, whole = 0, np.zeros(n, np.bool_)
    reach = 0.0
    for i in range(n):
        j = (i + 1) % n
        reach = max(reach, abs(flat[i, 0] - flat[0, 0]) + abs(flat[i, 1] - flat[0, 1]))
        dx, dy = flat[j, 0] - flat[i, 0], flat[j, 1] - flat[i, 1]
        length = np.sqrt(dx * dx + dy * dy)
        if length > 0.0:
            whole[i] = True
            size += 1
            line[i, 0], line[i, 1], line[i, 2], line[i, 3] = dx / length, dy / length, -dy / length, dx / length
            offset[i] = line[i, 2] * flat[i, 0] + line[i, 3] * flat[i, 1]
    room = 8 * n + 16
    place, source = np.zeros((room, 4)), np.zeros(room, np.int32)
    events = Events(place, source, np.arange(room).astype(np.int32), np.zeros((4 * room, 3), np.int32))
    count = np.array([n, 0, 0, 1], np.int32)
    link = np.full((room, 9), -1, np.int32)
    wave = Wave(
        line,
        offset,
        np.zeros((room, 8)),
        link,
        np.full(room, np.inf),
        np.zeros(room, np.bool_),
        np.zeros(room, np.bool_),
        np.zeros(room, np.bool_),
        count,
        1e-9 * reach,
        events,
    )
    for i in range(n):
        place[i, 0], place[i, 1], place[i, 2] = flat[i, 0], flat[i, 1], height[i]
        source[i] = i
        if not whole[i]:
            events.same[i] = (i + 1) % n if i + 1 < n else 0
    if size < 3:
        return wave
    last = n - 1
    while not whole[last]:
        last -= 1
    for i in range(n):
        if whole[i]:
            v = new_vertex(wave, (flat[i, 0], flat[i, 1]), height[i], 0.0, (last, i), i)
            link[v, BEFORE], link[v, AFTER], link[v, PART] = (v - 1) % size, (v + 1) % size, 0
            last = i
    return wave


@inline
def new_vertex(wave: Wave, flat: Place, height: float, now: float, edges: tuple[int, int], node: int) -> int:
    """Add a corner between two edges that starts at a node; it moves so that it stays on both. Returns its number."""
    v = wave.used[VERTICES]
    wave.used[VERTICES] += 1
    left, right = edges
    line = wave.line
    open_ = 1.0 + line[left, 2] * line[right, 2] + line[left, 3] * line[right, 3]
    wave.at[v, X], wave.at[v, Y], wave.at[v, HEIGHT], wave.at[v, SINCE] = flat[0], flat[1], height, now
    wave.at[v, SPLIT_TIME] = wave.at[v, EDGE_TIME] = np.inf
    wave.folded[v] = open_ <= FOLDED
    if not wave.folded[v]:
        wave.hollow[v] = line[left, 0] * line[right, 1] - line[left, 1] * line[right, 0] < -1e-12
        wave.at[v, SPEED_X] = (line[left, 2] + line[right, 2]) / open_
        wave.at[v, SPEED_Y] = (line[left, 3] + line[right, 3]) / open_
    wave.link[v, LEFT], wave.link[v, RIGHT], wave.link[v, NODE] = left, right, node
    wave.link[v, SOURCE] = wave.events.source[node]
    wave.alive[v] = True
    return v


@inline
def position(wave: Wave, v: int, now: float) -> Place:
    """Where a corner is."""
    far = now - wave.at[v, SINCE]
    return wave.at[v, X] + far * wave.at[v, SPEED_X], wave.at[v, Y] + far * wave.at[v, SPEED_Y]


@inline
def _new_node(wave: Wave, flat: Place, height: float, now: float, source: int) -> int:
    node = wave.used[NODES]
    wave.used[NODES] += 1
    place = wave.events.place
    place[node, 0], place[node, 1], place[node, 2], place[node, 3] = flat[0], flat[1], height, now
    wave.events.source[node] = source
    return node


@inline
def _add_half(wave: Wave, edge: int, begin: int, end: int) -> None:
    h = wave.used[HALVES]
    wave.used[HALVES] += 1
    half = wave.events.half
    half[h, 0], half[h, 1], half[h, 2] = edge, begin, end


@inline
def close_vertex(wave: Wave, v: int, node: int) -> None:
    """End the way of a corner at a node; where it went nowhere, its nodes are one."""
    begin = wave.link[v, NODE]
    wave.alive[v] = False
    wave.due[v] = np.inf
    one, two = find_root(wave.events.same, begin), find_root(wave.events.same, node)
    if one == two:
        return
    a, b = wave.events.place[one], wave.events.place[two]
    if abs(a[0] - b[0]) <= wave.near and abs(a[1] - b[1]) <= wave.near and one >= len(wave.offset):
        wave.events.same[two] = one
        return
    _add_half(wave, wave.link[v, LEFT], begin, node)
    _add_half(wave, wave.link[v, RIGHT], node, begin)


@inline_making
def _vanish(wave: Wave, v: int, now: float) -> None:
    """A part of two corners has no area left: its two edges meet in a ridge between them."""
    w = wave.link[v, AFTER]
    nodes = np.empty(2, np.int32)
    for k in range(2):
        u = v if k == 0 else w
        nodes[k] = _new_node(wave, position(wave, u, now), wave.at[u, HEIGHT], now, wave.link[u, SOURCE])
        close_vertex(wave, u, nodes[k])
    one, two = find_root(wave.events.same, nodes[0]), find_root(wave.events.same, nodes[1])
    if one == two:
        return
    a, b = wave.events.place[one], wave.events.place[two]
    if abs(a[0] - b[0]) <= wave.near and abs(a[1] - b[1]) <= wave.near:
        wave.events.same[two] = one
        return
    _add_half(wave, wave.link[v, RIGHT], nodes[1], nodes[0])
    _add_half(wave, wave.link[w, RIGHT], nodes[0], nodes[1])


@inline
def _join(wave: Wave, a: int, b: int) -> None:
    """Let ``b`` follow ``a``."""
    wave.link[a, AFTER] = b
    wave.link[b, BEFORE] = a


@inline_making
def _merge(wave: Wave, i: int, j: int, now: float, flat: Place) -> None:
    """The edge between corners ``i`` and ``j`` is used up: both become one."""
    height = 0.5 * (wave.at[i, HEIGHT] + wave.at[j, HEIGHT])
    node = _new_node(wave, flat, height, now, wave.link[i, SOURCE])
    before, after = wave.link[i, BEFORE], wave.link[j, AFTER]
    close_vertex(wave, i, node)
    close_vertex(wave, j, node)
    v = new_vertex(wave, flat, height, now, (wave.link[i, LEFT], wave.link[j, RIGHT]), node)
    wave.link[v, PART] = wave.link[i, PART]
    _join(wave, before, v)
    _join(wave, v, after)
    if before == after:
        _vanish(wave, v, now)
    else:
        _look_ahead(wave, v, now)


@inline_making
def _split(wave: Wave, v: int, now: float) -> None:
    """Corner ``v`` has reached another edge: the part comes apart there."""
    k, j = wave.link[v, SPLIT_FROM], wave.link[v, SPLIT_TO]
    flat, height = position(wave, v, now), wave.at[v, HEIGHT]
    before, after, edge = wave.link[v, BEFORE], wave.link[v, AFTER], wave.link[k, RIGHT]
    node = _new_node(wave, flat, height, now, wave.link[v, SOURCE])
    close_vertex(wave, v, node)
    one = new_vertex(wave, flat, height, now, (wave.link[v, LEFT], edge), node)
    two = new_vertex(wave, flat, height, now, (edge, wave.link[v, RIGHT]), node)
    _join(wave, before, one)
    _join(wave, one, j)
    _join(wave, k, two)
    _join(wave, two, after)
    wave.link[one, PART] = wave.link[v, PART]
    part = wave.used[PARTS]
    wave.used[PARTS] += 1
    u = two
    while True:
        wave.link[u, PART] = part
        u = wave.link[u, AFTER]
        if u == two:
            break
    for fresh in (one, two):
        if wave.link[fresh, AFTER] == wave.link[fresh, BEFORE]:
            _vanish(wave, fresh, now)
        else:
            _look_ahead(wave, fresh, now)


@inline
def _try_split(wave: Wave, v: int, k: int, now: float) -> None:
    """Remember when ``v`` reaches the edge from corner ``k`` on, if it does and that is earlier than what it knows."""
    j, edge = wave.link[k, AFTER], wave.link[k, RIGHT]
    left, right = wave.link[v, LEFT], wave.link[v, RIGHT]
    if k == v or j == v or edge in (left, right):
        return
    dx, dy, nx, ny = wave.line[edge, 0], wave.line[edge, 1], wave.line[edge, 2], wave.line[edge, 3]
    x, y = position(wave, v, now)
    gap = nx * x + ny * y - (wave.offset[edge] + now)
    rate = 1.0 - nx * wave.at[v, SPEED_X] - ny * wave.at[v, SPEED_Y]
    if gap < -wave.near or rate <= 1e-12:
        return
    when = now + max(gap, 0.0) / rate
    if when >= wave.at[v, SPLIT_TIME]:
        return
    if gap <= wave.near:
        into = -(nx * wave.line[left, 0] + ny * wave.line[left, 1])
        out = nx * wave.line[right, 0] + ny * wave.line[right, 1]
        if into <= 1e-9 and out <= 1e-9:
            return
    x, y = position(wave, v, when)
    ax, ay = position(wave, k, when)
    bx, by = position(wave, j, when)
    if dx * (x - ax) + dy * (y - ay) >= -wave.near and dx * (bx - x) + dy * (by - y) >= -wave.near:
        wave.at[v, SPLIT_TIME], wave.link[v, SPLIT_FROM], wave.link[v, SPLIT_TO] = when, k, j
        wave.due[v] = min(when, wave.at[v, EDGE_TIME])


@inline
def _try_all(wave: Wave, v: int, now: float) -> None:
    wave.at[v, SPLIT_TIME] = np.inf
    wave.due[v] = wave.at[v, EDGE_TIME]
    wave.link[v, SPLIT_FROM] = -1
    k = wave.link[v, AFTER]
    while k != v:
        _try_split(wave, v, k, now)
        k = wave.link[k, AFTER]


@inline
def _look_ahead(wave: Wave, fresh: int, now: float) -> None:
    """After ``fresh`` came into its part: what happens next to corners? Only what changed is looked at again."""
    _time_edge(wave, wave.link[fresh, BEFORE], now)
    _time_edge(wave, fresh, now)
    v = fresh
    while True:
        if wave.hollow[v]:
            k = wave.link[v, SPLIT_FROM]
            lost = k >= 0 and (
                not wave.alive[k]
                or wave.link[k, AFTER] != wave.link[v, SPLIT_TO]
                or wave.link[k, PART] != wave.link[v, PART]
            )
            if v == fresh or lost:
                _try_all(wave, v, now)
            else:
                _try_split(wave, v, wave.link[fresh, BEFORE], now)
                _try_split(wave, v, fresh, now)
        v = wave.link[v, AFTER]
        if v == fresh:
            return


@inline
def _time_edge(wave: Wave, v: int, now: float) -> None:
    """Remember when the edge from corner ``v`` on is used up."""
    w, edge = wave.link[v, AFTER], wave.link[v, RIGHT]
    when = now
    if not wave.folded[v] and not wave.folded[w]:
        dx, dy = wave.line[edge, 0], wave.line[edge, 1]
        ax, ay = position(wave, v, now)
        bx, by = position(wave, w, now)
        length = dx * (bx - ax) + dy * (by - ay)
        rate = dx * (wave.at[w, SPEED_X] - wave.at[v, SPEED_X]) + dy * (wave.at[w, SPEED_Y] - wave.at[v, SPEED_Y])
        when = now + max(length, 0.0) / -rate if rate < -1e-14 else np.inf
    wave.at[v, EDGE_TIME] = when
    wave.due[v] = min(when, wave.at[v, SPLIT_TIME])


@inline_making
def move_inwards(wave: Wave, far: float) -> float:
    """Let all edges go ``far`` in m, one event after the other; returns how far they came, -1 where it went wrong.

    Edges that are used up vanish (edge events), parts that get too narrow come apart (split events), parts without area
    end: the straight skeleton (Aichholzer & Aurenhammer 1996), each event found by looking at all that may be next.
    """
    now = 0.0
    for v in range(wave.used[VERTICES]):
        _time_edge(wave, v, now)
        if wave.hollow[v]:
            _try_all(wave, v, now)
    for _ in range(6 * len(wave.offset) + 12):
        if wave.used[VERTICES] == 0:
            return now
        which = int(np.argmin(wave.due[: wave.used[VERTICES]]))
        when = wave.due[which]
        if when == np.inf:
            return now
        if when > far:
            return far
        split = wave.at[which, SPLIT_TIME] < wave.at[which, EDGE_TIME]
        now = max(now, when)
        after = wave.link[which, AFTER]
        if split:
            _split(wave, which, now)
        elif wave.link[after, AFTER] == which:
            _vanish(wave, which, now)
        elif wave.folded[which] or wave.folded[after]:
            _unfold(wave, which if wave.folded[which] else after, now)
        else:
            a, b = position(wave, which, now), position(wave, after, now)
            _merge(wave, which, after, now, (0.5 * (a[0] + b[0]), 0.5 * (a[1] + b[1])))
    return -1.0


@inline_making
def _unfold(wave: Wave, v: int, now: float) -> None:
    """The edges beside ``v`` lie on each other: the shorter is used up at once."""
    before, after = wave.link[v, BEFORE], wave.link[v, AFTER]
    at, a, b = position(wave, v, now), position(wave, before, now), position(wave, after, now)
    if abs(a[0] - at[0]) + abs(a[1] - at[1]) < abs(b[0] - at[0]) + abs(b[1] - at[1]):
        _merge(wave, before, v, now, a)
    else:
        _merge(wave, v, after, now, b)
