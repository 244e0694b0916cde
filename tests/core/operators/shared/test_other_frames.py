"""Elements found again by name."""

from __future__ import annotations

import numpy as np

from reticula.core import ops
from reticula.core.operators.shared.other_frames import at_other_frames, rows_of


def test_elements_are_found_by_their_names() -> None:
    names = np.array([9, 4, 7], np.uint64)
    np.testing.assert_array_equal(rows_of(names, np.array([7, 1, 9, 99], np.uint64)), [2, -1, 0, -1])
    np.testing.assert_array_equal(rows_of(names[:0], names), [-1, -1, -1])
    assert len(rows_of(names, names[:0])) == 0


def test_outside_of_a_graph_a_shape_is_the_same_at_every_frame() -> None:
    sheet = ops.grid()
    assert at_other_frames(sheet, [1, 2.5]) == {1.0: sheet, 2.5: sheet}
