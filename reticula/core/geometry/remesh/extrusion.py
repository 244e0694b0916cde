"""Which corners stay one point when faces are raised, and where the walls go: the topology of an extrusion."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from reticula.core.arrays import Flags, Indices
from reticula.core.geometry.mesh.adjacency import find_root, group_by, join_roots
from reticula.core.geometry.mesh.topology import Topology
from reticula.core.jit import kernel

__all__ = ["ExtrusionTopology", "plan_extrusion"]


@dataclass(frozen=True, eq=False)
class ExtrusionTopology:
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


@kernel
def _corner_groups(
    chosen: Flags,
    together: bool,
    corner_point: Indices,
    following: Indices,
    corner_face: Indices,
    face_start: Indices,
    edge_start: Indices,
    edge_corner: Indices,
    point_uses: Indices,
) -> tuple[Indices, Indices, Indices, Flags, Indices]:
    count = len(corner_point)
    parent = np.arange(count).astype(np.int32)
    wall = np.zeros(count, np.bool_)
    if not together:
        for c in range(count):
            wall[c] = chosen[corner_face[c]]
    else:
        for e in range(len(edge_start) - 1):
            leader = -1
            alone = True
            for k in range(edge_start[e], edge_start[e + 1]):
                c = edge_corner[k]
                if not chosen[corner_face[c]]:
                    continue
                if leader < 0:
                    leader = c
                else:
                    alone = False
                    if corner_point[c] == corner_point[leader]:
                        join_roots(parent, leader, c)
                        join_roots(parent, following[leader], following[c])
                    else:
                        join_roots(parent, leader, following[c])
                        join_roots(parent, following[leader], c)
            if leader >= 0 and alone:
                wall[leader] = True
    number = np.full(count, -1, np.int32)
    uses = np.zeros(count, np.int32)
    total = 0
    for c in range(count):
        if chosen[corner_face[c]]:
            root = find_root(parent, c)
            uses[root] += 1
            if number[root] < 0:
                number[root] = total
                total += 1
            number[c] = number[root]
    source = np.empty(total, np.int32)
    fresh = np.zeros(total, np.bool_)
    walls = 0
    for c in range(count):
        if number[c] >= 0:
            source[number[c]] = corner_point[c]
            if uses[find_root(parent, c)] != point_uses[corner_point[c]]:
                fresh[number[c]] = True
        if wall[c]:
            walls += 1
            fresh[number[c]] = True
            fresh[number[following[c]]] = True
    listed = np.empty(walls, np.int32)
    at = 0
    for c in range(count):
        if wall[c]:
            listed[at] = c
            at += 1
    group = np.arange(total).astype(np.int32)
    for f in range(len(face_start) - 1):
        if chosen[f]:
            for c in range(face_start[f] + 1, face_start[f + 1]):
                join_roots(group, number[face_start[f]], number[c])
    region = np.full(total, -1, np.int32)
    regions = 0
    for r in range(total):
        root = find_root(group, r)
        if region[root] < 0:
            region[root] = regions
            regions += 1
        region[r] = region[root]
    return number, listed, source, fresh, region


def plan_extrusion(shape: Topology, chosen: Flags, together: bool) -> ExtrusionTopology:
    """Find the raised points of the ``chosen (F,)`` faces, joined where two of them share an edge if ``together``.

    Faces that meet in a single point only are separate regions.
    """
    edge_start, edge_corner = shape.edge_corners if together else (np.zeros(1, np.int32), np.zeros(0, np.int32))
    uses = np.bincount(shape.corner_point, minlength=shape.point_count).astype(np.int32)
    np.add.at(uses, shape.curve_point, 1)
    number, wall, source, fresh, region = _corner_groups(
        chosen,
        together,
        shape.corner_point,
        shape.corner_next,
        shape.corner_face,
        shape.face_start,
        edge_start,
        edge_corner,
        uses,
    )
    on = np.flatnonzero(number >= 0).astype(np.int32)
    start, order = group_by(number[on], len(source))
    return ExtrusionTopology(number, source, fresh, wall, start, on[order], region)
