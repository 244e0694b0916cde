"""Faces and curves turned round."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Indices, as_readonly
from reticula.core.geometry.mesh.attribute import Attribute
from reticula.core.geometry.mesh.carry import carry
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.mesh.kinds import Kind
from reticula.core.geometry.mesh.source_maps import edges_along, kept
from reticula.core.jit import kernel
from reticula.core.rows import rows_at

__all__ = ["flipped"]


def flipped(geo: Geo, faces: Flags | None = None, curves: Flags | None = None, *, with_normals: bool = True) -> Geo:
    """Return the geometry with the marked faces ``(F,)`` and curves ``(K,)`` running the other way (all, if not given).

    The first corner of each face and the first point of each closed curve stay first. Stored normals of turned corners
    and faces, and those of points with turned faces only, point the other way, unless ``with_normals`` is false.
    """
    shape = geo.topology
    faces = np.ones(shape.face_count, bool) if faces is None else faces
    curves = np.zeros(shape.curve_count, bool) if curves is None else curves
    turned = rows_at(faces, shape.corner_face)
    corner = _turned_corners(shape.face_start, faces)
    sizes = np.diff(shape.curve_start)
    owner = np.repeat(np.arange(shape.curve_count), sizes)
    begin, place = shape.curve_start[owner], np.arange(len(shape.curve_point)) - shape.curve_start[owner]
    back = np.where(shape.curve_closed[owner], (-place) % np.maximum(sizes[owner], 1), sizes[owner] - 1 - place)
    along = np.where(curves[owner], begin + back, begin + place)
    topology = shape.with_faces(shape.point_count, shape.face_start, rows_at(shape.corner_point, corner))
    topology = topology.with_curves(shape.point_count, shape.curve_start, shape.curve_point[along], shape.curve_closed)

    def old_edges() -> AnyArray:
        return np.where(turned, shape.corner_edge[shape.corner_previous[corner]], shape.corner_edge)

    made = carry(geo, topology, {"corner": kept(corner), "edge": edges_along(topology, old_edges)})
    if not with_normals:
        return made
    flipped = np.ones(shape.point_count, bool)
    flipped[shape.corner_point[~turned]] = False
    flipped &= shape.used_points
    masks: dict[Kind, Flags] = {"corner": turned, "face": faces, "point": flipped}
    for kind, mask in masks.items():
        if made.has(kind, "normal") and made.find(kind, "normal").type == "vec3":
            old = made.find(kind, "normal")
            values = np.where(mask[:, None], -old.values, old.values)
            made = made.with_attribute(kind, "normal", Attribute("vec3", as_readonly(values), None, old.default))
    return made


@kernel
def _turned_corners(face_start: Indices, faces: Flags) -> Indices:
    """Corners in their order, those of the marked faces the other way round from the first one on."""
    corner = np.empty(face_start[-1], np.int32)
    for f in range(len(faces)):
        first, last = face_start[f], face_start[f + 1]
        corner[first] = first
        for c in range(first + 1, last):
            corner[c] = first + last - c if faces[f] else c
    return corner
