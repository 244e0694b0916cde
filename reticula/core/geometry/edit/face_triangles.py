"""Faces cut into triangles, in place."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Indices, ragged_index
from reticula.core.geometry.measure.areas import area_vectors
from reticula.core.geometry.mesh.carry import Maps, carry
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.mesh.source_maps import edges_along, kept
from reticula.core.geometry.planar.ear_clipping import cut_polygons
from reticula.core.geometry.planar.quads import cut_quads
from reticula.core.jit import kernel
from reticula.core.rows import rows_at

__all__ = ["triangulate_faces"]


def triangulate_faces(geo: Geo, chosen: Flags, *, shortest: bool = True) -> Geo:
    """Return the geometry with the ``chosen (F,)`` faces cut into triangles, which stand where their face stood."""
    shape = geo.topology
    faces = np.flatnonzero(chosen & (shape.face_size > 3)).astype(np.int32)
    if not len(faces):
        return geo
    if 4 * len(faces) == shape.corner_count:
        corner, point = cut_quads(geo.positions, shape.corner_point, shortest)
        count = 2 * len(faces)
        start = np.arange(0, 3 * count + 1, 3, dtype=np.int32)
        return _carried(geo, _Faces(start, point, corner, np.repeat(np.arange(len(faces), dtype=np.int32), 2)))
    start, point, normals = shape.face_start, shape.corner_point, area_vectors(geo)
    if len(faces) < shape.face_count:
        flat, start = ragged_index(shape.face_start, faces)
        point, normals = rows_at(point, flat), rows_at(normals, faces)
    triangle, _ = cut_polygons(geo.positions, start, point, normals, shortest=shortest)
    return _carried(geo, _in_place(shape.face_start, shape.corner_point, faces, start, triangle))


def _carried(geo: Geo, made: _Faces) -> Geo:
    """Return the geometry with other faces in place of its own."""
    shape = geo.topology
    corner, topology = made.corner, shape.with_faces(shape.point_count, made.face_start, made.point)

    def old_edges() -> AnyArray:
        following = corner[topology.corner_next]
        return np.where(shape.corner_next[corner] == following, shape.corner_edge[corner], -1)

    maps: Maps = {"face": kept(made.face), "corner": kept(corner), "edge": edges_along(topology, old_edges)}
    return carry(geo, topology, maps)


class _Faces(NamedTuple):
    """Faces by their starts; per corner its point and old corner, per face the old one."""

    face_start: Indices
    point: Indices
    corner: Indices
    face: Indices


@kernel
def _in_place(face_start: Indices, corner_point: Indices, faces: Indices, start: Indices, triangle: Indices) -> _Faces:
    """Put ``triangle (T, 3)`` of some ``faces (K,)`` in their place; they name corners counted by ``start (K+1,)``."""
    count, corners = len(face_start) - 1, face_start[-1]
    new = count - len(faces) + len(triangle)
    out_start, source = np.empty(new + 1, np.int32), np.empty(new, np.int32)
    corner = np.empty(corners - start[-1] + 3 * len(triangle), np.int32)
    point = np.empty(len(corner), np.int32)
    at = number = k = t = 0
    for f in range(count):
        first, last = face_start[f], face_start[f + 1]
        if k == len(faces) or faces[k] != f:
            out_start[number], source[number] = at, f
            number += 1
            for c in range(first, last):
                corner[at], point[at] = c, corner_point[c]
                at += 1
            continue
        shift = first - start[k]
        for _ in range(last - first - 2):
            out_start[number], source[number] = at, f
            number += 1
            for i in range(3):
                c = triangle[t, i] + shift
                corner[at], point[at] = c, corner_point[c]
                at += 1
            t += 1
        k += 1
    out_start[new] = at
    return _Faces(out_start, point, corner, source)
