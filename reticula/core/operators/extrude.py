"""Extrude: raise faces with walls at their sides."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from reticula.core.arrays import Flags, Floats, Indices, frozen
from reticula.core.compiled import inline, kernel
from reticula.core.geometry import Geo, SourceMap, Topology, carry, edge_sources
from reticula.core.geometry.adjacency import group_by
from reticula.core.geometry.measure import area_vectors, gather_sum, unit
from reticula.core.notes import note, warn
from reticula.core.operators.declare import operator
from reticula.core.operators.parameters import GroupName, KindChoice, Toggle, Varying, Where

__all__ = ["extrude"]


@dataclass(frozen=True, eq=False)
class _Plan:
    """All of an extrusion that does not depend on positions.

    Raised point ``i`` of the result is ``target[i]``, a copy of input point ``source[i]``; the raised faces around it
    are listed by ``start`` and ``face`` (CSR).
    """

    topology: Topology
    point_source: Indices
    face_source: Indices
    corner_source: Indices
    target: Indices
    source: Indices
    start: Indices
    face: Indices


@inline
def _root(parent: Indices, c: int) -> int:
    while parent[c] != c:
        parent[c] = parent[parent[c]]
        c = parent[c]
    return c


@inline
def _join(parent: Indices, a: int, b: int) -> None:
    a, b = _root(parent, a), _root(parent, b)
    if a < b:
        parent[b] = a
    elif b < a:
        parent[a] = b


@kernel
def _fans(
    chosen: Flags, together: bool, corner_point: Indices, following: Indices, corner_face: Indices,
    corner_edge: Indices, edge_start: Indices, edge_corner: Indices, point_uses: Indices,
) -> tuple[Indices, Indices, Indices, Indices]:  # fmt: skip
    """Join the chosen corners that stay one point when raised.

    Returns the raised point of each corner ``(C,)`` or -1, the corners that get a wall, the input point of each
    raised point, and 1 for each raised point that must be a new one (0: the input point itself moves).
    """
    count = len(corner_point)
    parent = np.arange(count).astype(np.int32)
    wall = np.zeros(count, np.bool_)
    for e in range(len(edge_start) - 1):
        leader = -1
        alone = True
        for k in range(edge_start[e], edge_start[e + 1]):
            c = edge_corner[k]
            if not chosen[corner_face[c]]:
                continue
            if not together:
                wall[c] = True
            elif leader < 0:
                leader = c
            else:
                alone = False
                if corner_point[c] == corner_point[leader]:
                    _join(parent, leader, c)
                    _join(parent, following[leader], following[c])
                else:
                    _join(parent, leader, following[c])
                    _join(parent, following[leader], c)
        if together and leader >= 0 and alone:
            wall[leader] = True
    raised = np.full(count, -1, np.int32)
    uses = np.zeros(count, np.int32)
    for c in range(count):
        if chosen[corner_face[c]]:
            uses[_root(parent, c)] += 1
    number = 0
    for c in range(count):
        if chosen[corner_face[c]]:
            root = _root(parent, c)
            if raised[root] < 0:
                raised[root] = number
                number += 1
            raised[c] = raised[root]
    source = np.empty(number, np.int32)
    fresh = np.zeros(number, np.int32)
    walls = 0
    for c in range(count):
        if raised[c] >= 0:
            source[raised[c]] = corner_point[c]
            if uses[_root(parent, c)] != point_uses[corner_point[c]]:
                fresh[raised[c]] = 1
        if wall[c]:
            walls += 1
            fresh[raised[c]] = 1
            fresh[raised[following[c]]] = 1
    listed = np.empty(walls, np.int32)
    at = 0
    for c in range(count):
        if wall[c]:
            listed[at] = c
            at += 1
    return raised, listed, source, fresh


def _plan(shape: Topology, chosen: Flags, together: bool) -> _Plan:
    edge_start, edge_corner = shape.edge_corners
    uses = np.diff(shape.point_corners[0]).astype(np.int32)
    np.add.at(uses, shape.curve_point, 1)
    raised, wall, source, fresh = _fans(
        chosen, together, shape.corner_point, shape.corner_next, shape.corner_face,
        shape.corner_edge, edge_start, edge_corner, uses,
    )  # fmt: skip
    target = np.where(fresh, shape.point_count + np.cumsum(fresh) - 1, source).astype(np.int32)
    on = np.flatnonzero(raised >= 0).astype(np.int32)
    corners = shape.corner_point.copy()
    corners[on] = target[raised[on]]
    ahead = shape.corner_next[wall]
    walls = np.stack([shape.corner_point[wall], shape.corner_point[ahead], corners[ahead], corners[wall]], axis=1)
    wall_source = np.stack([wall, ahead, ahead, wall], axis=1)
    face_start = np.concatenate([shape.face_start, shape.face_start[-1] + 4 * np.arange(1, len(wall) + 1)])
    topology = Topology(
        shape.point_count + int(fresh.sum()), face_start, np.concatenate([corners, walls.reshape(-1)]),
        shape.curve_start, shape.curve_point, shape.curve_closed,
    )  # fmt: skip
    start, order = group_by(raised[on], len(source))
    return _Plan(
        topology,
        frozen(np.concatenate([np.arange(shape.point_count, dtype=np.int32), source[fresh == 1]])),
        frozen(np.concatenate([np.arange(shape.face_count, dtype=np.int32), shape.corner_face[wall]])),
        frozen(np.concatenate([np.arange(shape.corner_count, dtype=np.int32), wall_source.reshape(-1)])),
        target, source, start, shape.corner_face[on[order]],
    )  # fmt: skip


@operator(
    "extrude",
    family="topology",
    keywords=("raise", "pull", "push", "walls", "thicken", "ridge"),
    carries=(
        "Carries all. New points copy their source point's values, walls those of the face they were raised from, wall "
        "corners those of the corners below; edges beside old edges copy them, upright edges get the default."
    ),
    parameters=(
        Where.each("face", "faces to raise; empty means all"),
        Toggle("together", True, "raise faces that touch as one region; off: each face by itself"),
        KindChoice.of(("face", "point"), "face", "what the distance is worked out on", name="per"),
        Varying(
            "distance", 0.1, "how far, along the normal; negative goes inwards", unit="m", on="per", soft=(-1.0, 1.0)
        ),
        GroupName("top_group", "top", "face group that receives the raised faces", kind="face"),
        GroupName("side_group", "side", "face group that receives the walls", kind="face"),
    ),
)
def extrude(
    geo: Geo, *, where: Flags, together: bool, per: str, distance: Floats, top_group: str, side_group: str
) -> Geo:
    """Raise faces and close the gap with walls.

    Raised together, faces that share an edge stay joined: a point moves along the mean of its raised faces' normals,
    weighted by area, by the mean of their distances (or by its own distance, per point). Raised one by one, each face
    moves along its own normal. Faces keep their order, walls follow at the end; faces that are not raised and all
    input points stay as they were. Faces that meet in a single point only are separate regions.
    """
    if not where.any():
        warn("No face is marked, so nothing was raised.")
    shape = geo.topology
    plan = shape.memoise(("extrude", where.tobytes(), together), lambda: _plan(shape, where, together))
    direction = unit(gather_sum(plan.start, np.arange(len(plan.face), dtype=np.int32), plan.face, area_vectors(geo)))
    if per == "point":
        far = distance[plan.source]
    else:
        total = np.add.reduceat(distance[plan.face], plan.start[:-1]) if len(plan.source) else np.zeros(0)
        far = total / np.diff(plan.start)
    if len(far) and not far.any():
        warn("The distance is 0 everywhere, so the walls have no area.")
    flat = int((~direction.any(axis=1)).sum())
    if flat:
        warn(f"{flat:,} raised points lie on faces without area and have no direction; they were not moved.")
    positions = geo.positions[plan.point_source]
    positions[plan.target] = geo.positions[plan.source] + direction * far[:, None]
    made = carry(
        geo,
        plan.topology,
        {
            "point": SourceMap(plan.point_source),
            "face": SourceMap(plan.face_source),
            "corner": SourceMap(plan.corner_source),
            "edge": edge_sources(shape, plan.topology, plan.point_source),
        },
        positions=positions,
    )
    top = np.zeros(plan.topology.face_count, bool)
    top[: shape.face_count] = where
    walls = np.arange(plan.topology.face_count) >= shape.face_count
    note(f"Raised {int(where.sum()):,} faces, made {int(walls.sum()):,} walls.")
    return made.with_attribute("face", top_group, top).with_attribute("face", side_group, walls)
