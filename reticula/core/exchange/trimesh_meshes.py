"""Geometries as meshes of trimesh: triangles, with values of points and faces."""

from __future__ import annotations

from typing import Any

import numpy as np

from reticula.core.diagnostics import note
from reticula.core.exchange.shared import library, plain_values, say_lost, with_values
from reticula.core.geometry import Attribute, Geo, triangles
from reticula.core.geometry.edit.instances import flatten
from reticula.core.geometry.edit.placement import to_world
from reticula.core.srgb import from_bytes, to_bytes

__all__ = ["from_trimesh", "to_trimesh"]


def to_trimesh(geo: Geo) -> Any:
    """Return a ``trimesh.Trimesh`` of a geometry in the world; see :meth:`Geo.to_trimesh`."""
    trimesh = library("trimesh")
    geo = flatten(to_world(geo))
    cut = triangles(geo)
    lost = [f"{kind} {name}" for kind in ("edge", "corner", "curve", "whole") for name in geo.attributes[kind]]
    lost += ["curves"] * bool(geo.topology.curve_count)
    points = plain_values(geo, "point", lost)
    faces = {name: values[cut.face] for name, values in plain_values(geo, "face", lost).items()}
    color = points.get("color")
    normals = points.pop("normal", None)
    made = trimesh.Trimesh(
        geo.positions,
        geo.topology.corner_point[cut.corner],
        vertex_normals=normals,
        vertex_colors=None if color is None or color.shape[1:] != (4,) else to_bytes(color),
        vertex_attributes=points,
        face_attributes=faces,
        process=False,
        validate=False,
    )
    say_lost("trimesh has no place for", lost)
    return made


def from_trimesh(mesh: Any) -> Geo:
    """Return a geometry of a ``Trimesh``, a ``PointCloud`` or a ``Scene``; see :meth:`Geo.from_trimesh`."""
    if hasattr(mesh, "geometry") and hasattr(mesh, "graph"):
        mesh = mesh.to_mesh() if hasattr(mesh, "to_mesh") else mesh.dump(concatenate=True)
    if not hasattr(mesh, "faces"):
        return Geo.of(np.asarray(mesh.vertices))
    geo = Geo.from_faces(np.asarray(mesh.vertices), np.asarray(mesh.faces, np.int64))
    geo = with_values(geo, "point", dict(mesh.vertex_attributes))
    geo = with_values(geo, "face", dict(mesh.face_attributes))
    kind = getattr(mesh.visual, "kind", None)
    if kind == "vertex" and not geo.has("point", "color"):
        geo = geo.with_attribute("point", "color", from_bytes(np.asarray(mesh.visual.vertex_colors, np.uint8)))
    elif kind == "face" and not geo.has("face", "color"):
        geo = geo.with_attribute("face", "color", from_bytes(np.asarray(mesh.visual.face_colors, np.uint8)))
    elif kind == "texture" and getattr(mesh.visual, "uv", None) is not None:
        uv = np.asarray(mesh.visual.uv, np.float64)[geo.topology.corner_point]
        geo = geo.with_attribute("corner", "uv", Attribute.of(uv))
        note("The picture on the surface was left out; its uv are here.")
    return geo
