"""Apply place: move points to where the shape stands, so that its own space is the world."""

import numpy as np

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.geometry.edit.placement import place_of


def test_the_result_keeps_its_own_place(ball: Geo, notes: list[Note]) -> None:
    standing = ops.set_place(ops.box(), move=(0, 5, 0))
    joined = ops.join(standing, ball)
    np.testing.assert_allclose(place_of(joined)[:3, 3], [0, 5, 0])
    np.testing.assert_allclose(joined.positions[8:].mean(axis=0), [0, -5, 0], atol=1e-9)
    world = ops.apply_place(joined)
    np.testing.assert_allclose(world.positions[8:].mean(axis=0), 0, atol=1e-9)
    assert not world.has("whole", "place")
    assert ops.apply_place(world) is world
