"""Weld: make one point of points that lie near each other."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note


class TestWeld:
    def test_a_chain_does_not_collapse(self, notes: list[Note]) -> None:
        row = Geo.of(np.stack([np.arange(10) * 0.1, np.zeros(10), np.zeros(10)], axis=1))
        made = ops.weld(row, radius=0.11)
        assert made.counts["points"] == 5
        assert made.positions[0, 0] == pytest.approx(0.05), "the mean of both"
        assert ops.weld(row, radius=0.11, values="first").positions[0, 0] == 0

    def test_values_are_averaged_and_collapsed_faces_go(self) -> None:
        sheet = ops.grid(cells=(3, 1)).with_attribute("point", "heat", np.arange(8.0))
        narrow = sheet.with_positions(sheet.positions * [0.001, 1, 1])
        made = ops.weld(narrow, radius=0.01, where="index == 1 or index == 2 or index == 5 or index == 6")
        assert made.counts["faces"] == 2
        assert made.attribute("point", "heat").tolist() == [0, 1.5, 3, 4, 5.5, 7]

    def test_a_face_that_touches_itself_is_cut_there(self) -> None:
        bow = Geo.from_faces(
            [[0, 0, 0], [1, 0, 0], [1, 1, 0], [2, 1, 0], [2, 2, 0], [1.0001, 1, 0]], [[0, 1, 2, 3, 4, 5]]
        )
        made = ops.weld(bow, radius=0.01)
        assert made.topology.face_size.tolist() == [3, 3]
        assert made.group("point", "welded").tolist() == [False, False, True, False, False]

    def test_nothing_near_is_said(self, cube: Geo, notes: list[Note]) -> None:
        assert ops.weld(cube).topology is cube.topology
        assert "No two points" in notes[0].text
