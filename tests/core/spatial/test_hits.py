"""All hits of rays, crossings of meshes, what lies inside, and how thick a shape is: against shapes whose answers are
known.
"""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import Geo, ops
from reticula.core.spatial import surface_of
from reticula.core.spatial.all_hits import all_hits
from reticula.core.spatial.crossings import crossing_segments
from reticula.core.spatial.inside import behind, inside
from reticula.core.spatial.thickness import thickness
from tests.helpers import bumpy


def test_a_ray_through_a_box_hits_it_twice_and_in_order() -> None:
    surface = surface_of(ops.box(size=(2, 1, 1), cells=(3, 2, 2)))
    start, hits = all_hits(
        surface, np.array([[-5.0, 0.11, 0.07], [-5.0, 3.0, 0.0]]), np.array([[1.0, 0, 0], [1.0, 0, 0]])
    )
    assert start.tolist() == [0, 2, 2]
    assert hits.distance.tolist() == pytest.approx([4.0, 6.0])
    assert hits.position[:, 0].tolist() == pytest.approx([-1.0, 1.0])


def test_a_ray_through_a_shared_edge_hits_once_on_each_side() -> None:
    surface = surface_of(ops.box(cells=(2, 2, 2)))
    start, hits = all_hits(surface, np.array([[-2.0, 0.0, 0.0]]), np.array([[1.0, 0.0, 0.0]]))
    assert start.tolist() == [0, 2]
    assert hits.distance.tolist() == pytest.approx([1.5, 2.5])


@given(st.integers(0, 1000))
def test_a_closed_mesh_is_left_as_often_as_it_is_entered(seed: int) -> None:
    """Jordan: a line that comes from outside and goes on outside crosses a closed surface an even number of times."""
    surface = surface_of(bumpy(seed, 2))
    rng = np.random.default_rng(seed)
    ways = rng.normal(size=(20, 3))
    begin = rng.normal(size=(20, 3)) * 0.4 - 9 * ways / np.linalg.norm(ways, axis=1, keepdims=True)
    start, hits = all_hits(surface, begin, ways)
    assert (np.diff(start) % 2 == 0).all()
    for ray in range(20):
        far = hits.distance[start[ray] : start[ray + 1]]
        assert (np.diff(far) > 0).all()


def test_reach_and_begin_leave_hits_out() -> None:
    surface = surface_of(ops.box())
    ray = np.array([[-2.0, 0.1, 0.1]]), np.array([[1.0, 0.0, 0.0]])
    assert all_hits(surface, *ray, reach=2.0)[0].tolist() == [0, 1]
    assert all_hits(surface, *ray, begin=2.0)[0].tolist() == [0, 1]
    assert all_hits(surface, *ray, reach=1.0)[0].tolist() == [0, 0]


def test_two_sheets_cross_in_one_line() -> None:
    flat = ops.grid(size=(2, 2), cells=(5, 5))
    upright = ops.transform(ops.grid(size=(2, 2), cells=(4, 4)), turn=(90, 0, 0), move=(0, 0.1, 0.137))
    corners = flat.positions[surface_of(flat).point]
    triangle, segments = crossing_segments(corners, upright)
    lengths = np.linalg.norm(segments[:, 1] - segments[:, 0], axis=1)
    assert lengths.sum() == pytest.approx(2.0)
    assert np.allclose(segments[:, :, 1], 0)
    assert np.allclose(segments[:, :, 2], 0.137)
    assert set(triangle.tolist()) <= set(range(len(corners)))


def test_sheets_apart_or_in_one_plane_do_not_cross() -> None:
    flat = ops.grid(cells=(3, 3))
    corners = flat.positions[surface_of(flat).point]
    assert len(crossing_segments(corners, ops.transform(flat, move=(0, 0.01, 0)))[0]) == 0
    assert len(crossing_segments(corners, flat)[0]) == 0


@given(st.integers(0, 1000))
def test_inside_a_ball_is_nearer_than_its_faces(seed: int) -> None:
    ball = ops.geodesic_sphere(radius=1.0, frequency=6)
    places = np.random.default_rng(seed).uniform(-1.2, 1.2, (200, 3))
    far = np.linalg.norm(places, axis=1)
    found = inside(ball, places)
    faces = np.linalg.norm(ball.positions[ball.topology.corner_point].reshape(-1, 3, 3).mean(axis=1), axis=1).min()
    assert found[far < faces - 1e-9].all()
    assert not found[far > 1.0].any()


def test_behind_a_sheet_is_below_it() -> None:
    sheet = ops.grid(size=(4, 4), cells=(4, 4))
    places = np.array([[0.1, 0.5, 0.2], [0.3, -0.5, 0.1], [1.2, -0.01, -1.1]])
    assert behind(sheet, places).tolist() == [False, True, True]
    assert behind(ops.reverse(sheet), places).tolist() == [True, False, False]


@pytest.mark.parametrize("height", [0.1, 0.5])
def test_a_slab_is_as_thick_as_it_is_high(height: float) -> None:
    slab = ops.box(size=(4, height, 4), cells=(8, 1, 8))
    middle = (np.abs(slab.positions[:, [0, 2]]) < 1.9).all(axis=1)
    assert np.allclose(thickness(slab)[middle], height)


def test_an_open_sheet_has_no_other_side() -> None:
    assert (thickness(ops.grid(cells=(3, 3))) == -1).all()
    assert len(thickness(Geo.empty())) == 0
