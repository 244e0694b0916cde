"""Which corners stay one point when faces are raised, and where the walls go: the topology of an extrusion."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from reticula.core.arrays import Flags, Indices
from reticula.core.geometry.mesh.adjacency import find_root, group_by, join_across, join_roots
from reticula.core.geometry.mesh.topology import Topology
from reticula.core.jit import inline, inline_making, kernel

__all__ = ["ExtrusionTopology", "numbers_of", "plan_extrusion"]


class ExtrusionTopology(NamedTuple):
    """The raised points of a set of faces.

    ``number (C,)`` is the raised point of each corner, -1 on faces that stay. Per raised point: ``source (R,)`` the
    input point it is a copy of, ``fresh (R,)`` whether it must be a new point (else the input point itself moves),
    and its corners as CSR ``start (R+1,)``, ``corner``. ``wall (W,)`` lists the corners whose edge gets a wall.
    ``region (R,)`` numbers the connected parts.
    """

    number: Indices
    source: Indices
    fresh: Flags
    wall: Indices
    start: Indices
    corner: Indices
    region: Indices


class _Mesh(NamedTuple):
    """The faces that are raised, and the corners at each edge."""

    chosen: Flags
    corner_point: Indices
    following: Indices
    corner_face: Indices
    face_start: Indices
    edge_start: Indices
    edge_corner: Indices


class _Groups(NamedTuple):
    """The raised point of each corner ``number (C,)``; the corners along which walls stand; per raised point its
    source,
    whether it is fresh, and its region.
    """

    number: Indices
    wall: Indices
    source: Indices
    fresh: Flags
    region: Indices


@inline
def _join_along_edges(mesh: _Mesh, parent: Indices, wall: Flags) -> None:
    """Make corners one where chosen faces share an edge; edges of a single chosen face get a wall."""
    for e in range(len(mesh.edge_start) - 1):
        leader = -1
        alone = True
        for k in range(mesh.edge_start[e], mesh.edge_start[e + 1]):
            c = mesh.edge_corner[k]
            if not mesh.chosen[mesh.corner_face[c]]:
                continue
            if leader < 0:
                leader = c
                continue
            alone = False
            join_across(parent, mesh.corner_point, mesh.following, leader, c)
        if leader >= 0 and alone:
            wall[leader] = True


@inline_making
def _number_roots(mesh: _Mesh, parent: Indices, uses: Indices) -> tuple[Indices, int]:
    """Number the groups of chosen corners in order; ``uses`` counts their corners at the root. Returns how many too."""
    number = np.full(len(parent), -1, np.int32)
    total = 0
    for c in range(len(parent)):
        if mesh.chosen[mesh.corner_face[c]]:
            root = find_root(parent, c)
            uses[root] += 1
            if number[root] < 0:
                number[root] = total
                total += 1
            number[c] = number[root]
    return number, total


@inline_making
def _regions(mesh: _Mesh, number: Indices, total: int) -> Indices:
    """Number the connected parts of the raised points."""
    group = np.arange(total).astype(np.int32)
    for f in range(len(mesh.face_start) - 1):
        if mesh.chosen[f]:
            for c in range(mesh.face_start[f] + 1, mesh.face_start[f + 1]):
                join_roots(group, number[mesh.face_start[f]], number[c])
    region = np.full(total, -1, np.int32)
    regions = 0
    for r in range(total):
        root = find_root(group, r)
        if region[root] < 0:
            region[root] = regions
            regions += 1
        region[r] = region[root]
    return region


@kernel
def _each_by_itself(chosen: Flags, face_start: Indices, corner_point: Indices) -> ExtrusionTopology:
    """Every corner of a chosen face is a point of its own, with a wall along its edge."""
    total = 0
    for f in range(len(chosen)):
        if chosen[f]:
            total += face_start[f + 1] - face_start[f]
    number = np.empty(len(corner_point), np.int32)
    source, corner = np.empty(total, np.int32), np.empty(total, np.int32)
    region, start = np.empty(total, np.int32), np.empty(total + 1, np.int32)
    at = regions = 0
    for f in range(len(chosen)):
        for c in range(face_start[f], face_start[f + 1]):
            if chosen[f]:
                number[c], start[at], corner[at], source[at], region[at] = at, at, c, corner_point[c], regions
                at += 1
            else:
                number[c] = -1
        if chosen[f]:
            regions += 1
    start[total] = total
    return ExtrusionTopology(number, source, np.ones(total, np.bool_), corner, start, corner, region)


@kernel
def _corner_groups(mesh: _Mesh, point_uses: Indices) -> _Groups:
    """Which corners stay one point.

    A raised point is fresh if anything else still uses its source, or a wall stands there.
    """
    count = len(mesh.corner_point)
    parent = np.arange(count).astype(np.int32)
    wall = np.zeros(count, np.bool_)
    _join_along_edges(mesh, parent, wall)
    uses = np.zeros(count, np.int32)
    number, total = _number_roots(mesh, parent, uses)
    source = np.empty(total, np.int32)
    fresh = np.zeros(total, np.bool_)
    for c in range(count):
        if number[c] >= 0:
            source[number[c]] = mesh.corner_point[c]
            if uses[find_root(parent, c)] != point_uses[mesh.corner_point[c]]:
                fresh[number[c]] = True
        if wall[c]:
            fresh[number[c]] = True
            fresh[number[mesh.following[c]]] = True
    walls = np.flatnonzero(wall).astype(np.int32)
    return _Groups(number, walls, source, fresh, _regions(mesh, number, total))


def plan_extrusion(shape: Topology, chosen: Flags, together: bool) -> ExtrusionTopology:
    """Find the raised points of the ``chosen (F,)`` faces, joined where two of them share an edge if ``together``.

    Faces that meet in a single point only are separate regions.
    """
    if not together:
        return _each_by_itself(chosen, shape.face_start, shape.corner_point)
    edge_start, edge_corner = shape.edge_corners
    uses = np.bincount(shape.corner_point, minlength=shape.point_count).astype(np.int32)
    np.add.at(uses, shape.curve_point, 1)
    mesh = _Mesh(
        chosen,
        shape.corner_point,
        shape.corner_next,
        shape.corner_face,
        shape.face_start,
        edge_start,
        edge_corner,
    )
    made = _corner_groups(mesh, uses)
    on = np.flatnonzero(made.number >= 0).astype(np.int32)
    start, order = group_by(made.number[on], len(made.source))
    return ExtrusionTopology(made.number, made.source, made.fresh, made.wall, start, on[order], made.region)


def numbers_of(source: Indices, fresh: Flags, count: int) -> Indices:
    """Return the number of each raised point ``(R,)``: ``fresh`` ones follow the ``count`` that are there, in order;
    the others are their ``source``.
    """
    return np.where(fresh, count - 1 + np.cumsum(fresh, dtype=np.int32), source).astype(np.int32, copy=False)
