"""Faces on the points of others: copies, walls between solids, backs of sheets."""

import numpy as np

from reticula.core import Geo, ops
from reticula.core.geometry.edit.double_faces import find_double_faces


def test_copies_run_alike_from_any_corner() -> None:
    shape = Geo.from_faces(np.eye(4, 3), [[0, 1, 2, 3], [2, 3, 0, 1], [0, 2, 1, 3]]).topology
    found = find_double_faces(shape)
    assert found.copies.tolist() == [False, True, False], "the last goes around in another order"
    assert not found.walls.any()
    assert not found.backs.any()


def test_the_wall_between_two_blocks_goes_on_both_sides() -> None:
    blocks = ops.weld(ops.join(ops.box(), ops.transform(ops.box(), move=(1, 0, 0))), radius=1e-6)
    found = find_double_faces(blocks.topology)
    assert found.walls.sum() == 2
    assert not found.copies.any()


def test_a_sheet_of_two_sides_keeps_one() -> None:
    sheet = ops.grid(cells=(3, 3))
    both = ops.weld(ops.join(sheet, ops.reverse(sheet)), radius=1e-6)
    found = find_double_faces(both.topology)
    assert found.backs.tolist() == [False] * 9 + [True] * 9
    assert not found.walls.any()
