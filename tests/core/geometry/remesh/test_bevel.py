"""The topology of a bevel, before any position."""

import numpy as np
import pytest

from reticula.core import ops
from reticula.core.geometry.remesh.bevel import bevel_plan


@pytest.mark.parametrize("segments", [1, 2, 5])
def test_a_box_with_all_edges_cut(segments: int) -> None:
    shape = ops.box().topology
    plan = bevel_plan(shape, np.ones(12, bool), np.zeros(8, bool), segments)
    assert len(plan.inner) == 24, "every corner gets a point of its own inside its face"
    assert len(plan.slid) == 0
    assert len(plan.strip_edge) == 12
    assert len(plan.arc) == 24
    assert (plan.ring_meets == 3).all()
    assert np.diff(plan.ring_start).tolist() == [3 * segments] * 8


def test_one_cut_edge_has_a_point_on_each_edge_beside_its_ends() -> None:
    shape = ops.box().topology
    cut = np.zeros(12, bool)
    cut[0] = True
    plan = bevel_plan(shape, cut, np.zeros(8, bool), 1)
    assert len(plan.slid) == 4
    assert len(plan.inner) == 0


def test_points_alone_are_cut_off() -> None:
    shape = ops.box().topology
    plan = bevel_plan(shape, np.zeros(12, bool), np.ones(8, bool), 1)
    assert len(plan.strip_edge) == 0
    assert np.diff(plan.ring_start).tolist() == [3] * 8
