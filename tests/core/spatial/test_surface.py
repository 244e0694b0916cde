"""Closest places and rays, against brute force."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.errors import GeometryError
from reticula.core.spatial import points_of, surface_of


def test_closest_place_on_a_cube(cube: Geo) -> None:
    places = surface_of(cube).closest(np.array([[3.0, 0.2, 0.3], [2, 2, 2], [0, 0.5, 0]]))
    assert places.position == pytest.approx(np.array([[1, 0.2, 0.3], [1, 1, 1], [0, 1, 0]]), abs=1e-15)
    assert places.distance == pytest.approx([2, np.sqrt(3), 0.5])
    assert np.allclose(places.weight.sum(axis=1), 1)


def test_reach_is_inclusive_and_misses_are_marked(cube: Geo) -> None:
    places = surface_of(cube).closest(np.array([[2.0, 0, 0], [2.1, 0, 0]]), reach=1.0)
    assert places.found.tolist() == [True, False]
    assert places.distance.tolist() == [1.0, 0.0]


def test_rays_hit_the_first_face_and_tell_its_normal(cube: Geo) -> None:
    surface = surface_of(cube)
    places = surface.ray(np.array([[0.0, 5, 0], [0, 0, 0], [5, 5, 5]]), np.array([[0.0, -2, 0], [0, 0, 1], [0, 0, 0]]))
    assert places.found.tolist() == [True, True, False]
    assert places.distance.tolist() == [4.0, 1.0, 0.0]
    assert surface.normals(places).tolist() == [[0, 1, 0], [0, 0, 1], [0, 0, 0]]


def test_rays_through_shared_edges_and_points_do_not_slip() -> None:
    ball = ops.geodesic_sphere(frequency=5)
    start, edges = ball.positions * 3, ball.positions[ball.topology.edges].mean(axis=1) * 3
    for origins in (start, edges):
        assert surface_of(ball).ray(origins, -origins).found.all()


def test_many_random_queries_agree_with_trying_every_triangle(rng: np.random.Generator) -> None:
    soup = Geo.from_faces(rng.random((180, 3)), np.arange(180).reshape(-1, 3))
    points = rng.random((60, 3)) * 3 - 1
    found = surface_of(soup).closest(points)
    samples = rng.dirichlet((1, 1, 1), 4000)
    cloud = np.einsum("sk,tkw->tsw", samples, soup.positions.reshape(-1, 3, 3)).reshape(-1, 3)
    brute = np.linalg.norm(points[:, None] - cloud[None, ::7], axis=2).min(axis=1)
    assert (found.distance <= brute + 1e-12).all()
    assert (found.distance >= brute - 0.1).all()


def test_equal_triangles_are_all_kept_and_ties_go_to_the_first() -> None:
    stack = Geo.from_faces(np.tile([[0, 0, 0], [1, 0, 0], [0, 1, 0]], (50, 1)), np.arange(150).reshape(-1, 3))
    assert surface_of(stack).closest(np.array([[0.2, 0.2, 1.0]])).triangle.tolist() == [0]


def test_nothing_to_ask_is_said() -> None:
    with pytest.raises(GeometryError, match="no faces to ask"):
        surface_of(Geo.of([[0, 0, 0]]))
    with pytest.raises(GeometryError, match="no points to ask"):
        points_of(Geo.empty())


def test_nearest_points() -> None:
    index, distance = points_of(Geo.of([[0, 0, 0], [1, 0, 0]])).nearest(np.array([[0.9, 0, 0], [5, 0, 0]]), reach=1.0)
    assert index.tolist() == [1, -1]
    assert distance == pytest.approx([0.1, 0])
