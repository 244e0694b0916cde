"""Faces and points of a mesh after some were raised or shrunk: written in one pass each, in their final order."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from reticula.core.arrays import AnyArray, Floats, Indices
from reticula.core.geometry.mesh.topology import Topology
from reticula.core.geometry.remesh.extrusion import ExtrusionTopology
from reticula.core.jit import parallel_kernel, prange

__all__ = ["RaisedFaces", "Rings", "raise_faces", "raise_points"]


class Rings(NamedTuple):
    """Where raised points go: ``target (R,)`` at the top; ``place (R,)`` within the points of each division in between,
    which begin at ``first`` and are ``size`` each.
    """

    target: Indices
    place: Indices
    first: int
    size: int
    divisions: int


class RaisedFaces(NamedTuple):
    """Faces in their place, then walls division by division, then bases.

    Per corner its point and the corner of the input it has its values from, per face its start and that face.
    """

    face_start: Indices
    corner_point: Indices
    face_source: Indices
    corner_source: Indices


class _Mesh(NamedTuple):
    face_start: Indices
    corner_point: Indices
    following: Indices
    corner_face: Indices


def raise_faces(shape: Topology, raised: ExtrusionTopology, rings: Rings, bases: AnyArray) -> RaisedFaces:
    """Return the faces of ``shape`` with the ``raised`` ones at their new points, a wall of ``rings.divisions`` faces
    at each of its walls, and reversed copies of the faces ``bases`` below.
    """
    mesh = _Mesh(shape.face_start, shape.corner_point, shape.corner_next, shape.corner_face)
    return _written(mesh, raised.number, raised.wall, rings, bases.astype(np.int32))


@parallel_kernel
def _written(mesh: _Mesh, number: Indices, wall: Indices, rings: Rings, bases: Indices) -> RaisedFaces:
    faces, corners, walls = len(mesh.face_start) - 1, len(mesh.corner_point), len(wall)
    quads = walls * rings.divisions
    under = 0
    for b in range(len(bases)):
        under += mesh.face_start[bases[b] + 1] - mesh.face_start[bases[b]]
    start = np.empty(faces + quads + len(bases) + 1, np.int32)
    face_source = np.empty(faces + quads + len(bases), np.int32)
    point = np.empty(corners + 4 * quads + under, np.int32)
    source = np.empty(len(point), np.int32)
    for f in prange(faces):
        start[f] = mesh.face_start[f]
        face_source[f] = f
    for c in prange(corners):
        r = number[c]
        point[c] = rings.target[r] if r >= 0 else mesh.corner_point[c]
        source[c] = c
    for w in prange(walls):
        c = wall[w]
        d = mesh.following[c]
        owner, one, two = mesh.corner_face[c], number[c], number[d]
        for k in range(rings.divisions):
            q = k * walls + w
            at = corners + 4 * q
            start[faces + q] = at
            face_source[faces + q] = owner
            source[at], source[at + 1], source[at + 2], source[at + 3] = c, d, d, c
            if k == 0:
                point[at], point[at + 1] = mesh.corner_point[c], mesh.corner_point[d]
            else:
                low = rings.first + (k - 1) * rings.size
                point[at], point[at + 1] = low + rings.place[one], low + rings.place[two]
            if k == rings.divisions - 1:
                point[at + 2], point[at + 3] = rings.target[two], rings.target[one]
            else:
                high = rings.first + k * rings.size
                point[at + 2], point[at + 3] = high + rings.place[two], high + rings.place[one]
    at = corners + 4 * quads
    for b in range(len(bases)):
        first, last = mesh.face_start[bases[b]], mesh.face_start[bases[b] + 1]
        start[faces + quads + b] = at
        face_source[faces + quads + b] = bases[b]
        for k in range(last - first):
            c = first if k == 0 else last - k
            point[at], source[at] = mesh.corner_point[c], c
            at += 1
    start[len(face_source)] = at
    return RaisedFaces(start, point, face_source, source)


@parallel_kernel
def raise_points(positions: Floats, source: Indices, moves: Floats, target: Indices, count: int) -> Floats:
    """Return ``count`` places ``(count, 3)``: ``positions (P, 3)`` as they were, and those of ``source (R,)``, moved
    by ``moves (R, 3)``, at their ``target (R,)``; what follows is still to be filled.
    """
    out = np.empty((count, 3))
    for p in prange(len(positions)):
        for k in range(3):
            out[p, k] = positions[p, k]
    for r in prange(len(source)):
        for k in range(3):
            out[target[r], k] = positions[source[r], k] + moves[r, k]
    return out
