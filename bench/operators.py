"""The operators beside hand-written NumPy, trimesh and libigl. Inputs are made anew where results would be kept."""

from __future__ import annotations

from collections.abc import Iterator

import igl
import numpy as np
import trimesh

from bench.measure import Row, compare
from bench.shapes import anew, bumpy_ball
from reticula.core import Geo, ops
from reticula.core.diagnostics import collecting
from reticula.core.geometry import measure
from reticula.core.spatial.surface import Surface

__all__ = ["rows"]


def rows() -> Iterator[Row]:
    """Yield one comparison after the other."""
    with collecting():
        yield from _shapes()
        yield from _topology()
        yield from _queries()
        yield from _formulas()


def _shapes() -> Iterator[Row]:
    yield compare("grid", "1,000,000 faces", lambda: ops.grid(cells=(1000, 1000)), "NumPy by hand", _grid_by_hand)
    yield compare(
        "geodesic sphere",
        "327,680 faces",
        lambda: ops.geodesic_sphere(frequency=128),
        "trimesh",
        lambda: trimesh.creation.icosphere(7),
        3,
    )


def _grid_by_hand() -> tuple[np.ndarray, np.ndarray]:
    n = 1000
    x, z = np.meshgrid(np.linspace(-0.5, 0.5, n + 1), np.linspace(0.5, -0.5, n + 1))
    points = np.stack([x.ravel(), np.zeros(x.size), z.ravel()], axis=1)
    i = (np.arange(n)[:, None] * (n + 1) + np.arange(n)[None, :]).ravel()
    return points, np.stack([i, i + 1, i + n + 2, i + n + 1], axis=1)


def _topology() -> Iterator[Row]:
    ball = bumpy_ball(128)
    faces = ball.topology.corner_point.reshape(-1, 3).astype(np.int64)
    points = np.array(ball.positions)
    mesh = trimesh.Trimesh(points, faces, process=False)
    size = "327,680 faces"
    yield compare("edges", size, lambda: anew(ball).topology.edges, "libigl", lambda: igl.edges(faces))
    yield compare(
        "point normals",
        size,
        lambda: measure.point_normals(anew(ball)),
        "libigl",
        lambda: igl.per_vertex_normals(points, faces),
    )

    sheet = ops.grid(cells=(285, 285))
    quads = np.asarray(sheet.topology.corner_point.reshape(-1, 4), np.int64)
    cut = np.concatenate([quads[:, [0, 1, 2]], quads[:, [0, 2, 3]]])
    yield compare(
        "smooth subdivide, first time",
        "1.3 million faces",
        lambda: ops.smooth_subdivide(anew(sheet), levels=2),
        "libigl, Loop to as many",
        lambda: igl.loop(np.array(sheet.positions), cut[: len(cut) // 2], 2),
        3,
    )
    ops.smooth_subdivide(sheet, levels=2)
    yield compare(
        "smooth subdivide, new positions",
        "1.3 million faces",
        lambda: ops.smooth_subdivide(sheet.with_positions(sheet.positions * 1.01), levels=2),
        "ours, first time",
        lambda: ops.smooth_subdivide(anew(sheet), levels=2),
        3,
    )
    yield compare(
        "extrude all faces one by one",
        size,
        lambda: ops.extrude(anew(ball), together=False, distance=0.01),
        "NumPy by hand",
        lambda: _extrude_by_hand(points, faces),
    )
    half = np.arange(len(faces)) % 2 == 0
    marked = ball.with_attribute("face", "half", half)
    yield compare(
        "remove half of the faces",
        size,
        lambda: ops.remove(marked, where="half"),
        "trimesh",
        lambda: _remove_with_trimesh(mesh, ~half),
    )
    yield compare(
        "join two", size, lambda: ops.join(ball, ball), "trimesh", lambda: trimesh.util.concatenate([mesh, mesh])
    )
    yield compare(
        "transform",
        size,
        lambda: ops.transform(ball, turn=(10, 20, 30)),
        "NumPy by hand",
        lambda: points @ np.eye(3).T + 1.0,
    )


def _extrude_by_hand(points: np.ndarray, faces: np.ndarray) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    a, b, c = points[faces].transpose(1, 0, 2)
    normal = np.cross(b - a, c - a)
    normal /= np.linalg.norm(normal, axis=1, keepdims=True)
    raised = (points[faces] + 0.01 * normal[:, None]).reshape(-1, 3)
    top = np.arange(faces.size).reshape(-1, 3) + len(points)
    side = np.stack([faces, np.roll(faces, -1, 1), np.roll(top, -1, 1), top], axis=-1).reshape(-1, 4)
    return np.concatenate([points, raised]), top, side


def _remove_with_trimesh(mesh: trimesh.Trimesh, keep: np.ndarray) -> trimesh.Trimesh:
    part = trimesh.Trimesh(mesh.vertices, mesh.faces[keep], process=False)
    part.remove_unreferenced_vertices()
    return part


def _queries() -> Iterator[Row]:
    ball = bumpy_ball(128)
    faces = ball.topology.corner_point.reshape(-1, 3).astype(np.int64)
    points = np.array(ball.positions)
    rng = np.random.default_rng(0)
    queries = rng.normal(size=(200_000, 3))
    queries *= 0.52 / np.linalg.norm(queries, axis=1, keepdims=True)
    size = "200,000 on 327,680 triangles"
    surface = Surface(ball)
    tree = igl.AABB()
    tree.init(points, faces)
    mesh = trimesh.Trimesh(points, faces, process=False)
    yield compare(
        "build the tree",
        "327,680 triangles",
        lambda: Surface(anew(ball)),
        "libigl",
        lambda: igl.AABB().init(points, faces),
        3,
    )
    yield compare(
        "closest place",
        size,
        lambda: surface.closest(queries),
        "libigl",
        lambda: tree.squared_distance(points, faces, queries),
        3,
    )
    yield compare(
        "first hit of rays",
        size,
        lambda: surface.ray(queries * 2, -queries),
        "libigl",
        lambda: tree.intersect_ray_first(points, faces, queries * 2, -queries),
        3,
    )
    yield compare(
        "first hit of rays",
        size,
        lambda: surface.ray(queries * 2, -queries),
        "trimesh with Embree",
        lambda: mesh.ray.intersects_first(queries * 2, -queries),
        3,
    )
    source = ball.with_attribute("point", "heat", points[:, 0])
    target = Geo.of(queries)
    ops.transfer_attribute(target, source)
    yield compare(
        "transfer attribute",
        size,
        lambda: ops.transfer_attribute(target, source),
        "ours, the bare query",
        lambda: surface.closest(queries),
        3,
    )


def _formulas() -> Iterator[Row]:
    cloud = Geo.of(np.random.default_rng(1).random((1_000_000, 3)))
    p = cloud.positions
    yield compare(
        "set attribute: length(position) * 2 + sin(position.x)",
        "1,000,000 points",
        lambda: ops.set_attribute(cloud, name="a", value="length(position) * 2 + sin(position.x)"),
        "NumPy by hand",
        lambda: np.linalg.norm(p, axis=1) * 2 + np.sin(p[:, 0]),
    )
    yield compare(
        "group: position.x > 0.5 and position.y < 0.2",
        "1,000,000 points",
        lambda: ops.group(cloud, kind="point", where="position.x > 0.5 and position.y < 0.2"),
        "NumPy by hand",
        lambda: (p[:, 0] > 0.5) & (p[:, 1] < 0.2),
    )
