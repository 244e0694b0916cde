"""Geometries as meshes, lines or points of Open3D's tensors, with values of points and triangles."""

from __future__ import annotations

from typing import Any

import numpy as np

from reticula.core.arrays import AnyArray
from reticula.core.diagnostics import note
from reticula.core.exchange.shared import library, plain_values, say_lost, with_values
from reticula.core.geometry import Attribute, Geo, Topology, triangles
from reticula.core.geometry.edit.instances import flatten
from reticula.core.geometry.edit.placement import to_world
from reticula.core.srgb import to_linear, to_srgb

__all__ = ["from_open3d", "to_open3d"]

THEIRS = ("positions", "colors", "normals", "indices", "texture_uvs")


def to_open3d(geo: Geo) -> Any:
    """Return a tensor mesh, line set or point cloud of a geometry in the world; see :meth:`Geo.to_open3d`."""
    open3d = library("open3d")
    geo = flatten(to_world(geo))
    lost = [f"{kind} {name}" for kind in ("edge", "curve", "whole") for name in geo.attributes[kind]]
    points = _tensors(geo, "point", lost)
    color = geo.attributes["point"].get("color")
    if color is not None and color.type == "vec4":
        points["colors"] = to_srgb(color.values[:, :3]).astype(np.float32)
    if "normal" in points:
        points["normals"] = points.pop("normal")
    tensor = open3d.core.Tensor
    if geo.topology.face_count:
        made = open3d.t.geometry.TriangleMesh()
        cut = triangles(geo)
        made.triangle.indices = tensor(geo.topology.corner_point[cut.corner].reshape(-1, 3).astype(np.int64))
        for name, values in _tensors(geo, "face", lost).items():
            made.triangle[name] = tensor(np.ascontiguousarray(values[cut.face]))
        uv = geo.attributes["corner"].get("uv")
        if uv is not None and uv.type == "vec2":
            made.triangle.texture_uvs = tensor(uv.values[cut.corner].reshape(-1, 3, 2).astype(np.float32))
        lost += [f"corner {name}" for name in geo.attributes["corner"] if name != "uv"]
        lost += ["curves"] * bool(geo.topology.curve_count)
        on_points = made.vertex
    elif geo.topology.curve_count:
        made = open3d.t.geometry.LineSet()
        made.line.indices = tensor(geo.topology.curve_segments[0].astype(np.int64))
        on_points = made.point
    else:
        made = open3d.t.geometry.PointCloud()
        on_points = made.point
    on_points.positions = tensor(np.array(geo.positions))
    for name, values in points.items():
        on_points[name] = tensor(np.ascontiguousarray(values))
    say_lost("Open3D has no place for", lost)
    return made


def _tensors(geo: Geo, kind: Any, lost: list[str]) -> dict[str, AnyArray]:
    """Return values as arrays ``(N, k)``; texts go to ``lost``."""
    found = {}
    for name, values in plain_values(geo, kind, lost).items():
        if values.dtype.kind == "U":
            lost.append(f"{kind} {name}")
        else:
            found[name] = values.reshape(len(values), -1)
    return found


def from_open3d(mesh: Any) -> Geo:
    """Return a geometry of a mesh, a line set or a point cloud, tensor or legacy; see :meth:`Geo.from_open3d`."""
    open3d = library("open3d")
    if "open3d.t." not in f"{type(mesh).__module__}." and ".t." not in f"{type(mesh).__module__}.":
        mesh = getattr(open3d.t.geometry, type(mesh).__name__).from_legacy(mesh)
    is_mesh = hasattr(mesh, "triangle")
    on_points = mesh.vertex if is_mesh else mesh.point
    positions = on_points.positions.numpy().astype(np.float64)
    if is_mesh:
        geo = Geo.from_faces(positions, mesh.triangle.indices.numpy().astype(np.int64))
        geo = with_values(geo, "face", {name: one.numpy() for name, one in mesh.triangle.items() if name not in THEIRS})
        if "texture_uvs" in mesh.triangle:
            uv = mesh.triangle.texture_uvs.numpy().astype(np.float64).reshape(-1, 2)
            geo = geo.with_attribute("corner", "uv", Attribute.of(uv))
    elif hasattr(mesh, "line"):
        ends = mesh.line.indices.numpy().reshape(-1, 2)
        start = np.arange(len(ends) + 1) * 2
        geo = Geo.of(positions, Topology(len(positions), None, None, start, ends.reshape(-1)))
    else:
        geo = Geo.of(positions)
    named = {name: one.numpy() for name, one in on_points.items()}
    geo = with_values(geo, "point", {name: values for name, values in named.items() if name not in THEIRS})
    if "normals" in named:
        geo = geo.with_attribute("point", "normal", named["normals"].astype(np.float64))
    if "colors" in named and not geo.has("point", "color"):
        shown = named["colors"] / 255 if named["colors"].dtype == np.uint8 else named["colors"].astype(np.float64)
        geo = geo.with_attribute("point", "color", np.column_stack([to_linear(shown), np.ones(len(shown))]))
        note("Colours were taken as those of a screen (sRGB).")
    return geo
