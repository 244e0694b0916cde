"""Scatter in volume: scatter random points inside of a mesh; it may have holes (generalised winding number)."""

import numpy as np

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from tests.core.operators.scattering.support import gaps


def test_volumes_may_have_holes(ball: Geo, notes: list[Note]) -> None:
    made = ops.scatter_in_volume(ball, total=500)
    assert np.linalg.norm(made.positions, axis=1).max() < 1.0
    assert abs(made.positions.mean(axis=0)).max() < 0.1
    few = ops.scatter_in_volume(ball, total=100)
    assert (few.positions == made.positions[:100]).all()
    even = ops.scatter_in_volume(ball, total=300, arrangement="even")
    assert gaps(even).min() > 3 * gaps(ops.scatter_in_volume(ball, total=300)).min()
    assert gaps(ops.scatter_in_volume(ball, amount="spacing", spacing=0.3)).min() >= 0.3
    cup = ops.remove(ball, kind="face", where="position.y > 0.7")
    assert ops.scatter_in_volume(cup, total=50).topology.point_count == 50
    assert ops.scatter_in_volume(ops.grid()).topology.point_count == 0
    assert "encloses nothing" in notes[-1].text
