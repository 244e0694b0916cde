"""Moving points one by one, or faces and pieces as wholes."""

import numpy as np
import pytest

from reticula.core import ops
from reticula.core.diagnostics import Note
from reticula.core.operators.shared.point_moves import points_of_unit, spread_moves, unit_of_points

PAIR = ops.join(ops.grid(cells=(2, 1)), ops.transform(ops.grid(cells=(1, 1)), move=(5, 0, 0)))


@pytest.mark.parametrize(("what", "count"), [("points", 10), ("faces", 3), ("pieces", 2)])
def test_the_same_value_everywhere_stays_the_same(what: str, count: int) -> None:
    one = unit_of_points(PAIR, what, np.full((10, 3), 0.25))
    assert one.shape == (count, 3)
    assert points_of_unit(PAIR, what, one) == pytest.approx(np.full((10, 3), 0.25))


def test_pieces_have_the_mean_of_their_points() -> None:
    height = np.r_[np.zeros(6), np.arange(4.0)]
    assert unit_of_points(PAIR, "pieces", height).tolist() == [0, 1.5]


def test_pieces_move_without_bending(notes: list[Note]) -> None:
    made = spread_moves(PAIR, "pieces", np.array([[0, 1, 0], [0, -2, 0]], float))
    assert made.positions[:, 1].tolist() == [1] * 6 + [-2] * 4
    assert notes == []


def test_faces_that_share_points_are_bent_and_that_is_said(notes: list[Note]) -> None:
    up = np.array([[0, 1, 0], [0, 0, 0], [0, 0, 0]], float)
    made = spread_moves(PAIR, "faces", up)
    assert sorted(made.positions[:6, 1]) == [0, 0, 0.5, 0.5, 1, 1]
    assert "put unshare before this" in notes[0].text
    assert sorted(spread_moves(ops.unshare(PAIR), "faces", up).positions[:, 1]) == [0] * 8 + [1] * 4
    assert sum(entry.level == "warning" for entry in notes) == 1
