"""The faces of a bevelled mesh."""

import numpy as np

from reticula.core import ops
from reticula.core.geometry.remesh.bevel import bevel_plan
from reticula.core.geometry.remesh.bevel_faces import bevel_faces


def test_old_faces_strips_and_corners_follow_each_other() -> None:
    shape = ops.box().topology
    plan = bevel_plan(shape, np.ones(12, bool), np.zeros(8, bool), 1)
    rings = [(np.diff(plan.ring_start), plan.ring, np.arange(8))]
    made = bevel_faces(shape, plan, 1, rings)
    assert made.sizes.tolist() == [4] * 6 + [4] * 12 + [3] * 8
    assert np.bincount(made.kind).tolist() == [6, 12, 8]
    assert len(made.point) == len(made.corner) == len(made.edge) == made.sizes.sum()
    sides = np.stack(
        [made.point, np.concatenate([np.roll(row, -1) for row in np.split(made.point, np.cumsum(made.sizes)[:-1])])]
    )
    there = {*map(tuple, sides.T.tolist())}
    assert len(there) == len(made.point)
    assert all((b, a) in there for a, b in there), "every side is met from the other side: the mesh is closed"
