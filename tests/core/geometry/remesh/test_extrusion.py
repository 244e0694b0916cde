"""Which corners stay one point when faces are raised."""

import numpy as np

from reticula.core import Geo, ops
from reticula.core.geometry.remesh.extrusion import numbers_of, plan_extrusion


def test_neighbours_rise_together_or_each_alone() -> None:
    shape = ops.grid(cells=(2, 1)).topology
    both = np.ones(2, bool)
    together, alone = plan_extrusion(shape, both, True), plan_extrusion(shape, both, False)
    assert (len(together.source), len(together.wall)) == (6, 6)
    assert (len(alone.source), len(alone.wall)) == (8, 8)
    assert together.region.max() == 0
    assert alone.region.max() == 1


def test_all_of_a_closed_shape_just_moves() -> None:
    plan = plan_extrusion(ops.box().topology, np.ones(6, bool), True)
    assert len(plan.wall) == 0
    assert not plan.fresh.any()


def test_faces_that_meet_in_a_point_are_regions_of_their_own() -> None:
    bow = Geo.from_faces([[0, 0, 0], [1, 0, 0], [0, 1, 0], [-1, 0, 0], [0, -1, 0]], [[0, 1, 2], [0, 3, 4]])
    plan = plan_extrusion(bow.topology, np.ones(2, bool), True)
    assert len(plan.source) == 6
    assert plan.region.tolist() == [0, 0, 0, 1, 1, 1]


def test_a_point_that_something_else_uses_is_left_behind() -> None:
    chosen = np.array([True, False, False, False])
    plan = plan_extrusion(ops.grid(cells=(2, 2)).topology, chosen, True)
    assert plan.fresh.all()
    assert (plan.number >= 0).sum() == 4


def test_fresh_points_follow_those_that_are_there() -> None:
    source, fresh = np.array([4, 2, 7], np.int32), np.array([True, False, True])
    assert numbers_of(source, fresh, 10).tolist() == [10, 2, 11]
