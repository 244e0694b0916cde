"""Push: push points along their normals; with a mesh connected to 'stop', only as far as it lets them."""

import numpy as np
import pytest

from reticula.core import ops
from reticula.core.diagnostics import Note


def test_push_stops_at_a_wall(notes: list[Note]) -> None:
    sheet = ops.grid(cells=(2, 2))
    wall = ops.transform(ops.grid(size=(0.6, 0.6)), move=(0, 0.2, 0))
    free = ops.push(sheet, amount=0.5)
    np.testing.assert_allclose(free.positions[:, 1], 0.5)
    made = ops.push(sheet, wall, amount=0.5, gap=0.01)
    middle = (np.abs(sheet.positions[:, [0, 2]]) < 0.1).all(axis=1)
    np.testing.assert_allclose(made.positions[:, 1], np.where(middle, 0.19, 0.5))
    assert (made.group("point", "stopped") == middle).all()
    inwards = ops.push(sheet, amount="-0.1 if position.x > 0 else 0")
    assert inwards.positions[:, 1].min() == pytest.approx(-0.1)
