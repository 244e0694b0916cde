"""Triangles without breadth taken out, so that nothing opens: needles lose their short side, flat ones their apex."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats, Indices, as_readonly, starts_from_sizes
from reticula.core.geometry.edit.weld import weld_points
from reticula.core.geometry.mesh.carry import carry
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.mesh.source_maps import SourceMap, Weights, edges_along, kept
from reticula.core.jit import kernel

__all__ = ["sliver_faces", "without_slivers"]

ROUNDS = 20
"""How often slivers are looked for again: taking one out may leave another beside it."""


class _Slivers(NamedTuple):
    """Triangles thinner than a width, thinnest first: the corner ``apex`` across from the longest side, and whether the
    shortest side is below the width too (``needle``).
    """

    face: AnyArray
    apex: AnyArray
    needle: Flags


def sliver_faces(geo: Geo, width: float) -> Flags:
    """Return which triangles are nowhere broader than ``width`` in m ``(F,)``."""
    found = np.zeros(geo.topology.face_count, bool)
    found[_slivers(geo, width).face] = True
    return found


def _slivers(geo: Geo, width: float) -> _Slivers:
    shape = geo.topology
    faces = np.flatnonzero(shape.face_size == 3)
    corner = shape.face_start[faces][:, None] + np.arange(3)
    at = geo.positions[shape.corner_point[corner]]
    sides = np.linalg.norm(at[:, [1, 2, 0]] - at, axis=2)
    double = np.linalg.norm(np.cross(at[:, 1] - at[:, 0], at[:, 2] - at[:, 0]), axis=1)
    height = double / np.maximum(sides.max(axis=1), 1e-300)
    thin = np.flatnonzero(height < width)
    thin = thin[np.argsort(height[thin], kind="stable")]
    longest = sides[thin].argmax(axis=1)
    apex = corner[thin, (longest + 2) % 3]
    return _Slivers(faces[thin], apex, sides[thin].min(axis=1) < width)


def without_slivers(geo: Geo, width: float) -> tuple[Geo, int]:
    """Return the mesh without triangles thinner than ``width`` in m, and how many went.

    The ends of a needle's short side become one point. Of a flat triangle, whose apex lies beside its longest side, the
    apex becomes a corner of the faces across that side, in a straight line with its ends. Nothing opens and no place
    moves by more than the width; a sliver that would close up on itself stays.
    """
    before = geo.topology.face_count
    for _ in range(ROUNDS):
        found = _slivers(geo, width)
        if not len(found.face):
            break
        made = _without_needles(geo, found) if found.needle.any() else _without_caps(geo, found)
        if made is geo:
            break
        geo = made
    return geo, before - geo.topology.face_count


def _without_needles(geo: Geo, found: _Slivers) -> Geo:
    """Weld the ends of short sides, each point once."""
    shape = geo.topology
    corner = shape.face_start[found.face[found.needle]][:, None] + np.arange(3)
    point = shape.corner_point[corner]
    at = geo.positions[point]
    short = np.linalg.norm(at[:, [1, 2, 0]] - at, axis=2).argmin(axis=1)
    rows = np.arange(len(point))
    ends = np.stack([point[rows, short], point[rows, (short + 1) % 3]], axis=1)
    return weld_points(geo, _pairs_once(np.sort(ends, axis=1).astype(np.int32), shape.point_count))


@kernel
def _pairs_once(pairs: Indices, count: int) -> Indices:
    """Leaders ``(count,)``: the second of each pair follows the first, unless one of both is taken already."""
    leader, taken = np.arange(count).astype(np.int32), np.zeros(count, np.bool_)
    for k in range(len(pairs)):
        a, b = pairs[k, 0], pairs[k, 1]
        if not taken[a] and not taken[b]:
            taken[a] = taken[b] = True
            leader[b] = a
    return leader


class _Mesh(NamedTuple):
    """The corners at each edge, ``start (E+1,)`` and ``corner``; per corner its edge, face, point and the next one."""

    start: Indices
    corner: Indices
    edge: Indices
    face: Indices
    point: Indices
    following: Indices


@kernel
def _choose_caps(mesh: _Mesh, apex: Indices, face_start: Indices) -> tuple[Flags, Indices]:
    """Which of the triangles with these apex corners go, and per corner the apex that comes after it, or -1.

    A face takes part once; one that has the apex already keeps the triangle from going.
    """
    gone = np.zeros(len(apex), np.bool_)
    after = np.full(len(mesh.point), -1, np.int32)
    busy = np.zeros(len(face_start) - 1, np.bool_)
    for k in range(len(apex)):
        long = mesh.following[apex[k]]
        e, own = mesh.edge[long], mesh.face[long]
        free = not busy[own]
        for i in range(mesh.start[e], mesh.start[e + 1]):
            f = mesh.face[mesh.corner[i]]
            if f == own:
                continue
            free = free and not busy[f]
            for c in range(face_start[f], face_start[f + 1]):
                free = free and mesh.point[c] != mesh.point[apex[k]]
        if not free:
            continue
        gone[k] = True
        for i in range(mesh.start[e], mesh.start[e + 1]):
            c = mesh.corner[i]
            busy[mesh.face[c]] = True
            if mesh.face[c] != own:
                after[c] = apex[k]
    return gone, after


def _without_caps(geo: Geo, found: _Slivers) -> Geo:
    """Take flat triangles out and give their apex to the faces across their longest side."""
    shape = geo.topology
    mesh = _Mesh(*shape.edge_corners, shape.corner_edge, shape.corner_face, shape.corner_point, shape.corner_next)
    gone, after = _choose_caps(mesh, found.apex.astype(np.int32), shape.face_start)
    if not gone.any():
        return geo
    stays = np.ones(shape.face_count, bool)
    stays[found.face[gone]] = False
    keep = stays[shape.corner_face]
    added = np.flatnonzero(keep & (after >= 0))
    order = np.argsort(np.concatenate([2 * np.flatnonzero(keep), 2 * added + 1]), kind="stable")
    source = np.concatenate([np.flatnonzero(keep), added])[order]
    new = np.concatenate([np.zeros(int(keep.sum()), bool), np.ones(len(added), bool)])[order]
    point = np.where(new, shape.corner_point[after[source]], shape.corner_point[source])
    sizes = np.bincount(shape.corner_face[source], minlength=shape.face_count)[stays]
    topology = shape.with_faces(shape.point_count, starts_from_sizes(sizes), point)
    ahead = shape.corner_next[source]
    between = _share_between(geo.positions, shape.corner_point[source], shape.corner_point[ahead], point)
    share = np.where(new, between, 0.0)
    blend = Weights.rows(np.stack([source, ahead], axis=1), np.stack([1.0 - share, share], axis=1))
    return carry(
        geo,
        topology,
        {
            "face": kept(np.flatnonzero(stays)),
            "corner": SourceMap(as_readonly(source.astype(np.int32)), blend),
            "edge": edges_along(topology, lambda: shape.corner_edge[source]),
        },
    )


def _share_between(positions: Floats, a: AnyArray, b: AnyArray, at: AnyArray) -> Floats:
    """How far between points ``a`` and ``b`` the point ``at`` lies, all ``(N,)``, from 0 to 1."""
    way = positions[b] - positions[a]
    length = np.maximum(np.einsum("ij,ij->i", way, way), 1e-300)
    return np.clip(np.einsum("ij,ij->i", positions[at] - positions[a], way) / length, 0.0, 1.0)
