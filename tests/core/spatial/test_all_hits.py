"""Everything that a ray hits, in order."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import ops
from reticula.core.spatial import surface_of
from reticula.core.spatial.all_hits import all_hits
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
