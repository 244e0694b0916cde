"""Fans around points and points on each other, beside SciPy's graph components and its tree."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.sparse import coo_array
from scipy.sparse.csgraph import connected_components
from scipy.spatial import cKDTree

from reticula.core import Geo, ops
from reticula.core.geometry.mesh.topology import Topology
from reticula.core.geometry.validation.point_checks import fan_counts, near_points


def fans_by_components(shape: Topology) -> np.ndarray:
    """Corners of a point joined where they lie on one edge at it; components per point."""
    corners = shape.corner_count
    at = np.tile(shape.corner_point, 2)
    edge = np.concatenate([shape.corner_edge, shape.corner_edge[shape.corner_previous]])
    corner = np.tile(np.arange(corners), 2)
    a, b = np.nonzero((at[:, None] == at) & (edge[:, None] == edge))
    links = coo_array((np.ones(len(a)), (corner[a], corner[b])), shape=(corners, corners))
    _, fan = connected_components(links, directed=False)
    pairs = np.unique(np.stack([shape.corner_point, fan]), axis=1)
    return np.bincount(pairs[0], minlength=shape.point_count)


@given(st.lists(st.lists(st.integers(0, 6), min_size=3, max_size=5), max_size=9))
def test_fans_of_any_faces_are_components_of_their_corners(faces: list[list[int]]) -> None:
    start = np.concatenate([[0], np.cumsum([len(face) for face in faces])]).astype(np.int32)
    shape = Topology(7, start, np.array([point for face in faces for point in face], np.int32))
    if not faces:
        assert not fan_counts(shape).any()
        return
    assert fan_counts(shape).tolist() == fans_by_components(shape).tolist()


def test_fans_of_faces_beside_curves() -> None:
    both = ops.join([ops.circle(segments=5), ops.grid(cells=[2, 2]), ops.circle(segments=4)])
    assert fan_counts(both.topology).tolist() == [0] * 5 + [1] * 9 + [0] * 4


@given(st.integers(0, 10_000), st.sampled_from([0.0, 1e-3, 0.05, 0.4]), st.sampled_from([0.0, 1e9]))
def test_points_on_each_other_are_those_of_a_tree(seed: int, radius: float, away: float) -> None:
    rng = np.random.default_rng(seed)
    places = np.round(rng.random((60, 3)), rng.integers(1, 4)) + away
    pairs = cKDTree(places).query_pairs(radius, output_type="ndarray")
    assert near_points(places, radius).tolist() == np.unique(pairs).tolist()


@pytest.mark.parametrize("count", [0, 1])
def test_few_points_lie_on_nothing(count: int) -> None:
    assert near_points(np.zeros((count, 3)), 1.0).tolist() == []


def test_very_many_points_in_one_place_are_no_trouble() -> None:
    cloud = Geo.of(np.concatenate([np.zeros((200_000, 3)), [[1.0, 0.0, 0.0]]]))
    assert len(near_points(cloud.positions, 1e-6)) == 200_000
