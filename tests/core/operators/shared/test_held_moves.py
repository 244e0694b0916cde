"""Moves of raised points are taken back region by region."""

import numpy as np
import pytest

from reticula.core import ops
from reticula.core.geometry.remesh.extrusion import plan_extrusion
from reticula.core.operators.shared.held_moves import hold_back


@pytest.mark.parametrize("everywhere", [False, True])
def test_each_region_by_itself_or_all_alike(everywhere: bool) -> None:
    sheet = ops.grid(cells=(2, 1), size=(2, 1))
    chosen = np.ones(2, bool)
    raised = plan_extrusion(sheet.topology, chosen, False)
    middle = sheet.positions[sheet.topology.corner_point].reshape(2, 4, 3).mean(axis=1)
    face = sheet.topology.corner_face[raised.corner]
    moves = (middle[face] - sheet.positions[raised.source]) * np.array([2.0, 0.5])[face][:, None]
    held = hold_back(sheet, raised, moves, chosen, everywhere)
    assert held.crossing.tolist() == [True, False]
    assert held.held == (2 if everywhere else 1)
    share = np.linalg.norm(held.moves, axis=1) / np.linalg.norm(moves, axis=1)
    assert share[face == 0] == pytest.approx(0.4995)
    assert share[face == 1] == pytest.approx(0.4995 if everywhere else 1)


def test_what_does_not_cross_stays_to_the_bit() -> None:
    ball = ops.sphere()
    chosen = np.ones(ball.topology.face_count, bool)
    raised = plan_extrusion(ball.topology, chosen, True)
    moves = np.zeros((len(raised.source), 3))
    held = hold_back(ball, raised, moves, chosen, False)
    assert held.moves is moves
    assert held.held == 0
