"""Struts: tubes along edges or curves, with closed joints."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats
from reticula.core.diagnostics import note, warn
from reticula.core.geometry import Geo
from reticula.core.geometry.edit.subset import subset
from reticula.core.geometry.mesh.adjacency import group_by
from reticula.core.geometry.mesh.edge_chains import edge_chains
from reticula.core.geometry.planar.convex_hulls import hulls
from reticula.core.geometry.remesh.sweep import Tubes, sweep_profile
from reticula.core.jit import kernel
from reticula.core.operators.curves.sweep import add_tubes
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import GroupName, Integer, KindChoice, PerElement, Selection, Toggle

__all__ = ["struts"]

ROOM = 0.45
"""Share of a strut's first segment that a joint may take up."""
GAP = 0.97
"""Share of what they may fill of the angle between two struts that they do fill at a joint."""


@dataclass(frozen=True, eq=False)
class _Ends:
    """Ends of struts at joints, in order of joint: its number, the strut, whether it is the far end, and its
    direction.
    """

    joint: AnyArray
    chain: AnyArray
    far: Flags
    way: Floats
    start: AnyArray


@kernel
def _narrowest(start: AnyArray, way: Floats) -> Floats:
    """The smallest angle between two struts of each joint, in radians."""
    out = np.empty(len(start) - 1)
    for j in range(len(start) - 1):
        most = -1.0
        for a in range(start[j], start[j + 1]):
            for b in range(a + 1, start[j + 1]):
                most = max(most, way[a, 0] * way[b, 0] + way[a, 1] * way[b, 1] + way[a, 2] * way[b, 2])
        out[j] = np.arccos(min(max(most, -1.0), 1.0))
    return out


@operator(
    "struts",
    family="curves",
    keywords=("tubes", "wireframe", "lattice", "frame", "pipes", "skeleton", "scaffold"),
    sections={
        "names of groups": ("side_group", "joint_group", "cap_group"),
    },
    carries=(
        "Carries all. Points of tubes copy the point that they stand around, faces over curves the "
        "values of their first curve; "
        "joints get defaults. Makes the corner attribute uv."
    ),
    example="""
        frame = geodesic_sphere(frequency=3)
        struts(frame, radius=0.025, sides=10)
    """,
    related=("sweep", "edges_to_curves", "dual"),
    parameters=(
        KindChoice.of(("edge", "curve"), "edge", "what becomes tubes: edges of faces, or curves", name="along"),
        Selection("where", "", "which of them; empty means all", on="along"),
        PerElement(
            "radius",
            {"formula": "0.02 * extent"},
            "of the tubes, at each point",
            unit="m",
            on="point",
            soft=(0.0, 0.2),
            low=0.0,
        ),
        Integer("sides", 8, "faces around", soft=(3, 32), low=3, high=512),
        Toggle("keep_source", False, "keep the faces or curves"),
        GroupName("side_group", "side", "face group that receives the tubes", kind="face"),
        GroupName("joint_group", "joint", "face group that receives the joints", kind="face"),
        GroupName("cap_group", "cap", "face group that receives the ends", kind="face"),
    ),
)
def struts(
    geo: Geo,
    *,
    along: str,
    where: Flags,
    radius: Floats,
    sides: int,
    keep_source: bool,
    side_group: str,
    joint_group: str,
    cap_group: str,
) -> Geo:
    """Put tubes around edges or curves and close them where they meet: the result is watertight.

    Where two meet they bend into each other; where three and more meet, the joint is the convex hull of their last
    rings, which lie on one ball. At sharp angles and on short edges tubes get thinner towards the joint, so that they
    do not run into each other there.
    """
    shape = geo.topology
    if along == "edge":
        pairs, owner = shape.edges[where], np.full(int(where.sum()), -1)
    else:
        segments, curve = shape.curve_segments
        pairs, owner = segments[where[curve]], curve[where[curve]]
    real = (
        np.linalg.norm(geo.positions[pairs[:, 0]] - geo.positions[pairs[:, 1]], axis=1) > 0
        if len(pairs)
        else np.zeros(0, bool)
    )
    pairs, owner = pairs[real], owner[real]
    base = (
        geo
        if keep_source
        else subset(
            geo, None if along == "curve" else np.zeros(shape.face_count, bool), None if along == "edge" else ~where
        )
    )
    if not len(pairs):
        warn(f"There is no {along} to follow.")
    start, point, closed, first = edge_chains(pairs, shape.point_count)
    place, thick = geo.positions[point].copy(), radius[point].copy()
    ends = _ends(geo, pairs, start, point, closed)
    _shorten(ends, place, thick, start, sides)
    tubes = sweep_profile(
        place,
        start,
        np.arange(len(point), dtype=np.int32),
        closed,
        _circle(sides),
        True,
        thick,
        np.zeros(len(point)),
        np.array([0.0, 1.0, 0.0]),
        False,
    )
    tubes = _capped(tubes, geo, pairs, start, point, closed, sides)
    joints, lost = _joints(ends, tubes.positions, place, start, sides)
    if lost:
        warn(f"{lost:,} joints could not be closed; their tubes run into each other.")
    fresh = len(joints)
    complete = replace(
        tubes,
        sizes=np.concatenate([tubes.sizes, np.full(fresh, 3)]),
        point=np.concatenate([tubes.point, joints.reshape(-1)]),
        uv=np.concatenate([tubes.uv, np.zeros((3 * fresh, 2))]),
        curve=np.concatenate([tubes.curve, np.full(fresh, -1)]),
        cap=np.concatenate([tubes.cap, np.zeros(fresh, bool)]),
    )
    source = (
        np.where(complete.curve >= 0, owner[first][np.maximum(complete.curve, 0)], -1) if len(first) else complete.curve
    )
    made = add_tubes(geo, base, complete, np.repeat(point, sides), source, side_group, cap_group)
    joint = np.arange(made.topology.face_count) >= made.topology.face_count - fresh
    note(f"{len(closed):,} tubes, {len(ends.start) - 1:,} joints.")
    sided = made.group("face", side_group) & ~joint
    return made.with_attribute("face", side_group, sided).with_attribute("face", joint_group, joint)


def _circle(sides: int) -> Floats:
    angle = np.arange(sides) * (2 * np.pi / sides)
    return np.stack([np.cos(angle), np.sin(angle)], axis=1)


def _ends(geo: Geo, pairs: AnyArray, start: AnyArray, point: AnyArray, closed: Flags) -> _Ends:
    degree = np.bincount(pairs.reshape(-1), minlength=geo.topology.point_count)
    open_ = np.flatnonzero(~closed)
    node = np.concatenate([point[start[open_]], point[start[open_ + 1] - 1]])
    ahead = np.concatenate([point[start[open_] + 1], point[start[open_ + 1] - 2]]) if len(open_) else node
    chain, far = np.tile(open_, 2), np.repeat([False, True], len(open_))
    meets = degree[node] >= 3
    node, ahead, chain, far = node[meets], ahead[meets], chain[meets], far[meets]
    joints, joint = np.unique(node, return_inverse=True)
    begin, order = group_by(joint.reshape(-1).astype(np.int32), len(joints))
    way = geo.positions[ahead] - geo.positions[node]
    way /= np.maximum(np.linalg.norm(way, axis=1, keepdims=True), 1e-300)
    return _Ends(joint.reshape(-1)[order], chain[order], far[order], np.ascontiguousarray(way[order]), begin)


def _shorten(ends: _Ends, place: Floats, thick: Floats, start: AnyArray, sides: int) -> None:
    """Move the ends of struts away from their joints, all by as much, and make them as thin as they must be there.

    A ring of few sides needs more room: on the ball, the circle through its tip and two neighbours of it must not
    reach another ring.
    """
    if not len(ends.chain):
        return
    at = np.where(ends.far, start[ends.chain + 1] - 1, start[ends.chain])
    beside = np.where(ends.far, at - 1, at + 1)
    room = np.minimum.reduceat(np.linalg.norm(place[beside] - place[at], axis=1), ends.start[:-1]) * ROOM
    half = np.clip(
        _narrowest(ends.start, ends.way) * GAP / (1.0 + 1.0 / np.cos(np.pi / sides)), 1e-3, 0.5 * np.pi * GAP
    )
    radius = np.maximum.reduceat(thick[at], ends.start[:-1])
    away = np.clip(radius / np.tan(half), 0.35 * radius, room)
    thin = np.minimum(radius, away * np.tan(half))
    place[at] += ends.way * away[ends.joint][:, None]
    thick[at] = thin[ends.joint]


def _capped(
    tubes: Tubes, geo: Geo, pairs: AnyArray, start: AnyArray, point: AnyArray, closed: Flags, sides: int
) -> Tubes:
    """Close the ends at which only one tube begins."""
    degree = np.bincount(pairs.reshape(-1), minlength=geo.topology.point_count)
    open_ = np.flatnonzero(~closed)
    every = np.arange(sides)
    low = open_[degree[point[start[open_]]] == 1] if len(open_) else open_
    high = open_[degree[point[start[open_ + 1] - 1]] == 1] if len(open_) else open_
    rings = np.concatenate(
        [
            (start[low][:, None] * sides + every[::-1]).reshape(-1),
            ((start[high + 1] - 1)[:, None] * sides + every).reshape(-1),
        ]
    )
    count = len(low) + len(high)
    flat = _circle(sides) * 0.5 + 0.5
    return replace(
        tubes,
        sizes=np.concatenate([tubes.sizes, np.full(count, sides)]),
        point=np.concatenate([tubes.point, rings]),
        uv=np.concatenate([tubes.uv, np.tile(flat[::-1], (len(low), 1)), np.tile(flat, (len(high), 1))]),
        curve=np.concatenate([tubes.curve, low, high]),
        cap=np.concatenate([tubes.cap, np.ones(count, bool)]),
    )


def _joints(ends: _Ends, rings: Floats, place: Floats, start: AnyArray, sides: int) -> tuple[AnyArray, int]:
    """Triangles between the last rings of each joint, and how many joints did not work out.

    A tip is added above each ring, on the ball through all rings; the triangles of the hull that touch no tip are the
    joint.
    """
    count = len(ends.chain)
    if not count:
        return np.zeros((0, 3), np.int64), 0
    at = np.where(ends.far, start[ends.chain + 1] - 1, start[ends.chain])
    ring = at[:, None] * sides + np.arange(sides)
    first = ring[ends.start[:-1]][:, 0]
    middle = _nodes(ends, place, at)
    ball = np.linalg.norm(rings[first] - middle[ends.start[:-1]], axis=1)
    tips = ends.way * ball[ends.joint][:, None]
    local = (
        np.concatenate([rings[ring] - middle[:, None], tips[:, None]], axis=1)
        / np.maximum(ball[ends.joint], 1e-300)[:, None, None]
    )
    rng = np.random.default_rng(7)
    local += rng.uniform(-1e-7, 1e-7, local.shape)
    triangles, owner = hulls(np.ascontiguousarray(local.reshape(-1, 3)), (ends.start * (sides + 1)).astype(np.int32))
    tip = (triangles % (sides + 1)) == sides
    kept = triangles[~tip.any(axis=1)]
    have = np.bincount(owner[~tip.any(axis=1)], minlength=len(ends.start) - 1)
    numbers = np.concatenate([ring, np.full((count, 1), -1)], axis=1).reshape(-1)
    expected = np.diff(ends.start) * sides + 2 * np.diff(ends.start) - 4
    return numbers[kept], int((have != expected).sum())


def _nodes(ends: _Ends, place: Floats, at: AnyArray) -> Floats:
    """Where the joint of each end lies: all its ends were moved away from it by the same distance."""
    first = ends.start[:-1]
    a, b = at[first], at[first + 1]
    wa, wb = ends.way[first], ends.way[first + 1]
    gap = np.linalg.norm(place[a] - place[b], axis=1)
    angle = np.linalg.norm(wa - wb, axis=1)
    far = gap / np.maximum(angle, 1e-300)
    return (place[a] - wa * far[:, None])[ends.joint]
