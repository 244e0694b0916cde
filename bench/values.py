"""Questions about values: nearest places, rays, neighbours, inside, scattering, blurring, beside the library that
does it best.
"""

from __future__ import annotations

from collections.abc import Iterator

import igl
import numpy as np
import trimesh
from scipy.spatial import cKDTree

from bench.measure import Row, alone, compare
from bench.shapes import anew
from reticula.core import Geo, ops
from reticula.core.diagnostics import collecting
from reticula.core.geometry.measure.curvature import mean_curvatures
from reticula.core.geometry.measure.geodesics import geodesic_distances
from reticula.core.spatial import points_of, surface_of
from reticula.core.spatial.winding import winding_numbers

__all__ = ["rows"]

FREQUENCY = 129
"""A geodesic sphere of 332,820 triangles."""
QUERIES = 200_000


def rows() -> Iterator[Row]:
    """Yield one comparison after the other."""
    with collecting():
        yield from _rows()


def _rows() -> Iterator[Row]:
    ball = ops.geodesic_sphere(radius=1.0, frequency=FREQUENCY)
    ball = ball.with_positions(ball.positions * (1 + 0.1 * np.sin(9 * ball.positions[:, :1])))
    ball = ball.with_attribute("point", "heat", np.array(ball.positions[:, 1]))
    points = np.array(ball.positions)
    faces = np.array(ball.topology.corner_point.reshape(-1, 3).astype(np.int64))
    rng = np.random.default_rng(0)
    asked = rng.uniform(-1.2, 1.2, (QUERIES, 3))
    ways = rng.normal(size=(QUERIES, 3))
    dots = Geo.of(asked)
    mesh = trimesh.Trimesh(points, faces, process=False)
    size = f"{QUERIES:,} on {len(faces):,} triangles"
    surface, tree = surface_of(ball), igl.AABB()
    tree.init(points, faces)
    yield compare(
        "closest place",
        size,
        lambda: surface.closest(asked),
        "libigl, AABB tree",
        lambda: tree.squared_distance(points, faces, asked),
        3,
    )
    yield compare(
        "  as transfer attribute, one number",
        size,
        lambda: ops.transfer_attribute(dots, ball, attributes="heat"),
        "our bare query",
        lambda: surface.closest(asked),
        3,
    )
    embree = mesh.ray
    yield compare(
        "first hits of rays",
        size,
        lambda: surface.ray(asked, ways),
        f"trimesh, {type(embree).__module__.rsplit('.', 1)[-1]}",
        lambda: embree.intersects_first(asked, ways),
        3,
    )
    yield compare(
        "  as raycast, all its attributes",
        size,
        lambda: ops.raycast(dots, ball, direction=(0, 1, 0)),
        "our bare query",
        lambda: surface.ray(asked, np.tile([0.0, 1, 0], (QUERIES, 1))),
        3,
    )
    few = asked[:20_000]
    yield compare(
        "winding numbers",
        f"20,000 on {len(faces):,} triangles",
        lambda: winding_numbers(ball, few),
        "libigl, fast winding number",
        lambda: igl.fast_winding_number(points, faces, few),
        3,
    )
    yield from _near(points, asked)
    yield from _scatter(ball, mesh, points, faces)


def _near(points: np.ndarray, asked: np.ndarray) -> Iterator[Row]:
    cloud = Geo.of(points)
    own, other = points_of(cloud), cKDTree(points)
    size = f"{len(asked):,} in {len(points):,} points"
    yield compare(
        "point tree",
        f"{len(points):,} points",
        lambda: points_of(Geo.of(points)),
        "SciPy cKDTree",
        lambda: cKDTree(points),
        3,
    )
    yield compare(
        "nearest point",
        size,
        lambda: own.nearest(asked),
        "SciPy cKDTree, all cores",
        lambda: other.query(asked, workers=-1),
        3,
    )
    yield compare(
        "count within a radius",
        size,
        lambda: own.count(asked, 0.1),
        "SciPy cKDTree, all cores",
        lambda: other.query_ball_point(asked, 0.1, return_length=True, workers=-1),
        3,
    )
    yield compare(
        "neighbours within a radius, listed",
        size,
        lambda: own.near(asked, 0.03),
        "SciPy cKDTree, all cores",
        lambda: other.query_ball_point(asked, 0.03, workers=-1),
        3,
    )
    yield compare(
        "the 8 nearest",
        size,
        lambda: own.near(asked, 9.0, 8),
        "SciPy cKDTree, all cores",
        lambda: other.query(asked, 8, workers=-1),
        3,
    )


def _scatter(ball: Geo, mesh: trimesh.Trimesh, points: np.ndarray, faces: np.ndarray) -> Iterator[Row]:
    bare = Geo(ball.topology, {"point": {"position": ball.attributes["point"]["position"]}})
    yield compare(
        "scatter a million points",
        f"on {len(faces):,} triangles",
        lambda: ops.scatter(anew(bare), total=1_000_000),
        "trimesh sample",
        lambda: trimesh.sample.sample_surface(mesh, 1_000_000),
        3,
    )
    yield compare(
        "scatter 5,000 points evenly",
        f"on {len(faces):,} triangles",
        lambda: ops.scatter(bare, amount="spacing", spacing=0.048),
        "trimesh sample_surface_even (drops points)",
        lambda: trimesh.sample.sample_surface_even(mesh, 5_000),
        3,
    )
    yield alone(
        "  by sample elimination",
        f"5,000 on {len(faces):,} triangles",
        lambda: ops.scatter(bare, total=5_000, arrangement="even"),
    )
    yield compare(
        "mean curvature",
        f"{len(points):,} points",
        lambda: mean_curvatures(anew(ball)),
        "libigl, cotangents and mass",
        lambda: _curvature(points, faces),
        3,
    )
    begin = np.arange(len(points)) == 0
    yield compare(
        "distances along the surface",
        f"{len(points):,} points",
        lambda: geodesic_distances(ball, begin),
        "libigl, heat method",
        lambda: _heat(points, faces),
        1,
    )
    from scipy.sparse import diags_array

    matrix = igl.adjacency_matrix(faces).astype(np.float64)
    mean = diags_array(1 / np.asarray(matrix.sum(axis=1)).ravel()) @ matrix
    heat = np.array(points[:, 1])

    def blurred() -> np.ndarray:
        values = heat
        for _ in range(10):
            values = values + 0.5 * (mean @ values - values)
        return values

    yield compare(
        "blur values, 10 times",
        f"{len(points):,} points",
        lambda: ops.blur_values(ball, attributes="heat"),
        "SciPy sparse product",
        blurred,
        3,
    )


def _curvature(points: np.ndarray, faces: np.ndarray) -> np.ndarray:
    mass = igl.massmatrix(points, faces, igl.MASSMATRIX_TYPE_VORONOI).diagonal()
    return np.linalg.norm(igl.cotmatrix(points, faces) @ points, axis=1) / mass / 2


def _heat(points: np.ndarray, faces: np.ndarray) -> np.ndarray:
    data = igl.HeatGeodesicsData()
    igl.heat_geodesics_precompute(points, faces, data)
    return igl.heat_geodesics_solve(data, np.array([0]))
