"""What piles up: edges at a point, corners in a face, loops, one long curve. At two sizes: a cost that grows faster
than the input shows.
"""

from __future__ import annotations

from collections.abc import Iterator

import igl
import manifold3d
import numpy as np
import shapely
from scipy.spatial import ConvexHull

from bench.measure import Row, alone, compare
from reticula.core import Geo, ops
from reticula.core.diagnostics import collecting
from reticula.core.geometry import Topology, measure, triangles

__all__ = ["rows"]


def rows() -> Iterator[Row]:
    """Yield one comparison after the other."""
    with collecting():
        for share in (4, 1):
            yield _polygon(16_000 // share)
            yield _hollow_polygon(16_000 // share)
            yield _loops(20_000 // share)
            yield _fan(100_000 // share)
            yield _struts(10_000 // share)
            yield _walk(20_000 // share)
            yield _pairs(20_000 // share)
            yield _inset(4_000 // share)
            yield _cells(800 // share)
            yield _crossing(400 // share)


def curves(places: np.ndarray, start: np.ndarray, closed: bool) -> Geo:
    topology = Topology(len(places), None, None, start, np.arange(len(places)), np.full(len(start) - 1, closed))
    return Geo.of(places, topology)


def _polygon(count: int) -> Row:
    angle = 2 * np.pi * np.arange(count) / count
    flat = np.stack([np.cos(angle), np.sin(angle)], axis=1)
    polygon = shapely.Polygon(flat)
    places = np.column_stack([flat, np.zeros(count)])

    def cut() -> object:
        return triangles(Geo.of(places, Topology(count, [0, count], np.arange(count))))

    return compare(
        "cut a polygon into triangles",
        f"{count:,} corners",
        cut,
        "Shapely (GEOS)",
        lambda: shapely.constrained_delaunay_triangles(polygon),
        3,
    )


def _hollow_polygon(count: int) -> Row:
    angle = 2 * np.pi * np.arange(count) / count
    far = np.random.default_rng(0).uniform(0.9, 1.0, count)
    flat = far[:, None] * np.stack([np.cos(angle), np.sin(angle)], axis=1)
    places, polygon = np.column_stack([flat, np.zeros(count)]), shapely.Polygon(flat)
    return compare(
        "cut a polygon with hollow corners into triangles",
        f"{count:,} corners",
        lambda: triangles(Geo.of(places, Topology(count, [0, count], np.arange(count)))),
        "Shapely (GEOS)",
        lambda: shapely.constrained_delaunay_triangles(polygon),
        3,
    )


def _loops(count: int) -> Row:
    angle = 2 * np.pi * np.arange(8) / 8
    ring = 0.4 * np.stack([np.cos(angle), np.zeros(8), -np.sin(angle)], axis=1)
    number = np.arange(count)
    at = np.stack([number % 150, np.zeros(count), number // 150], axis=1)
    places = (ring + at[:, None]).reshape(-1, 3)
    drawn = curves(places, np.arange(count + 1) * 8, True)
    rings = shapely.polygons((ring + at[:, None])[:, :, [0, 2]])
    return compare(
        "fill closed curves with triangles",
        f"{count:,} curves",
        lambda: ops.fill(drawn, what="curve", using="triangles"),
        "Shapely (GEOS), places alone",
        lambda: shapely.constrained_delaunay_triangles(rings),
        1,
    )


def _fan(count: int) -> Row:
    angle = 2 * np.pi * np.arange(count + 1) / (count + 1)
    places = np.concatenate(
        [np.zeros((1, 3)), np.stack([np.cos(angle), 0.1 * np.sin(9 * angle), np.sin(angle)], axis=1)]
    )
    faces = np.stack([np.zeros(count, np.int64), np.arange(1, count + 1), np.arange(2, count + 2)], axis=1)

    def ours() -> object:
        fan = Geo.of(places, Topology(count + 2, np.arange(count + 1) * 3, faces.reshape(-1)))
        return measure.point_normals(fan), fan.topology.point_neighbours, fan.topology.border_edges

    def theirs() -> object:
        return igl.per_vertex_normals(places, faces), igl.adjacency_matrix(faces), igl.boundary_facets(faces)

    return compare("normals, neighbours and border of a fan", f"{count:,} faces at a point", ours, "libigl", theirs, 3)


def _struts(count: int) -> Row:
    places = np.concatenate([np.zeros((1, 3)), np.random.default_rng(0).normal(size=(count, 3))])
    pairs = np.stack([np.zeros(count - 1, np.int64), np.arange(1, count), np.arange(2, count + 1)], axis=1)
    fan = Geo.of(places, Topology(count + 1, np.arange(count) * 3, pairs.reshape(-1)))
    ball = np.random.default_rng(0).normal(size=(9 * count, 3))
    ball /= np.linalg.norm(ball, axis=1, keepdims=True)
    return compare(
        "struts that meet in a point",
        f"{count:,} edges at it",
        lambda: ops.struts(fan),
        "SciPy (Qhull), hull of the joint alone",
        lambda: ConvexHull(ball),
        3,
    )


def _walk(count: int) -> Row:
    steps = np.random.default_rng(0).normal(size=(count, 3)) * [1, 0, 1]
    walk = np.cumsum(steps, axis=0)
    drawn, line = curves(walk, np.array([0, count]), False), shapely.LineString(walk[:, [0, 2]])
    return compare(
        "offset a curve that crosses itself",
        f"{count:,} points",
        lambda: ops.offset_curve(drawn, distance=0.3),
        "Shapely (GEOS), places alone",
        lambda: shapely.offset_curve(line, 0.3, join_style="mitre", mitre_limit=4.0),
        1,
    )


def _pairs(count: int) -> Row:
    places = np.random.default_rng(0).uniform(size=(2 * count, 3))
    drawn = curves(places, np.arange(count + 1) * 2, True)
    return alone("sweep closed curves of two points", f"{count:,} curves", lambda: ops.sweep(drawn, radius=0.001), 1)


def _inset(count: int) -> Row:
    angle = 2 * np.pi * np.arange(count) / count
    far = np.random.default_rng(0).uniform(0.9, 1.0, count)
    flat = far[:, None] * np.stack([np.cos(angle), np.sin(angle)], axis=1)
    face = Geo.of(np.column_stack([flat, np.zeros(count)]), Topology(count, [0, count], np.arange(count)))
    polygon = shapely.Polygon(flat)
    return compare(
        "inset that divides a face",
        f"{count:,} corners, half of them hollow",
        lambda: ops.inset(face, distance=0.2, limit="divide"),
        "Shapely (GEOS), outline alone",
        lambda: polygon.buffer(-0.2, join_style="mitre", mitre_limit=1e6),
        1,
    )


def _cells(count: int) -> Row:
    ball = ops.sphere(segments=128, rings=64)
    centers = ops.scatter_in_volume(ball, total=count)
    return compare(
        "break into cells by six neighbours each",
        f"{count:,} cells, 8,064 faces",
        lambda: ops.break_into_cells(ball, centers, most_neighbours=6),
        "the same by all neighbours",
        lambda: ops.break_into_cells(ball, centers),
        1,
    )


def _crossing(segments: int) -> Row:
    ball = ops.triangulate(ops.sphere(segments=segments, rings=segments // 2))
    other = ops.transform(ball, move=(0.3, 0.1, 0.05))
    heap, corners = ops.join(ball, other), ball.topology.corner_point.reshape(-1, 3)

    def union() -> object:
        parts = [manifold3d.Mesh64(np.array(one.positions), np.array(corners, np.uint64)) for one in (ball, other)]
        return manifold3d.Manifold.batch_boolean([manifold3d.Manifold(part) for part in parts], manifold3d.OpType.Add)

    return compare(
        "repair solids that run through each other",
        f"{heap.topology.face_count:,} triangles",
        lambda: ops.repair(heap),
        "Manifold, union of known solids alone",
        union,
        1,
    )
