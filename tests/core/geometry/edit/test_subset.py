"""Parts of a geometry."""

import numpy as np

from reticula.core import Geo
from reticula.core.geometry.edit.subset import any_of_row, subset


def test_marked_faces_keep_their_values_and_order(mixed: Geo) -> None:
    full = mixed.with_attribute("face", "n", np.arange(3)).with_attribute("corner", "c", np.arange(12))
    made = subset(full, np.array([False, True, True]))
    assert made.attribute("face", "n").tolist() == [1, 2]
    assert made.attribute("corner", "c").tolist() == list(range(4, 12))
    assert np.array_equal(made.identity("face"), full.identity("face")[1:])


def test_loose_points_stay_and_those_that_lose_their_face_go(mixed: Geo) -> None:
    nothing = np.zeros(3, bool), np.zeros(2, bool)
    assert subset(mixed, *nothing).counts["points"] == 1
    assert subset(mixed, *nothing, loose=False).counts["points"] == 0
    assert subset(mixed, *nothing, leftovers=True).counts["points"] == 9


def test_rows_with_any_flag() -> None:
    assert any_of_row(np.array([0, 2, 3]), np.array([False, True, False])).tolist() == [True, False]
