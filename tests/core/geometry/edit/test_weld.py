"""Points made one."""

import numpy as np

from reticula.core import Geo, ops
from reticula.core.geometry.edit.weld import cluster_by_distance, weld_points
from tests.helpers import is_closed


def test_the_first_in_order_leads_those_within_reach() -> None:
    places = np.array([[0.0, 0, 0], [0.05, 0, 0], [0.12, 0, 0], [5, 0, 0]])
    assert cluster_by_distance(places, np.arange(4), 0.1).tolist() == [0, 0, 2, 3]
    assert cluster_by_distance(places, np.array([1, 2]), 0.1).tolist() == [0, 1, 1, 3]


def test_a_box_without_shared_points_closes_again() -> None:
    apart = ops.unshare(ops.box())
    made = weld_points(apart, cluster_by_distance(apart.positions, np.arange(24), 1e-9))
    assert made.counts["points"] == 8
    assert is_closed(made)


def test_a_welded_point_is_the_mean_or_the_first() -> None:
    line = Geo.of([[0, 0, 0], [2, 0, 0]])
    leader = np.array([0, 0])
    assert weld_points(line, leader).positions.tolist() == [[1, 0, 0]]
    assert weld_points(line, leader, average=False).positions.tolist() == [[0, 0, 0]]


def test_a_face_that_comes_back_to_a_point_is_cut_there() -> None:
    eight = Geo.from_faces([[0, 0, 0], [1, 0, 0], [1, 1, 0], [0, 0, 0], [-1, 0, 0], [-1, -1, 0]], [list(range(6))])
    made = weld_points(eight, np.array([0, 1, 2, 0, 4, 5]))
    assert made.topology.face_size.tolist() == [3, 3]
    flat = weld_points(eight, np.zeros(6, int))
    assert flat.counts["faces"] == 0
