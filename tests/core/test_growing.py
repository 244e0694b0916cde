"""Arrays that grow while kernels fill them."""

import numpy as np
import pytest

from reticula.core.growing import copy_row, with_room


@pytest.mark.parametrize("rows", [np.arange(4), np.arange(8.0).reshape(4, 2), np.arange(24.0).reshape(4, 2, 3)])
def test_rows_stay_and_room_at_least_doubles(rows: np.ndarray) -> None:
    assert np.array_equal(with_room(rows, 4), rows)
    assert len(with_room(rows, 4)) == 4
    for needed, room in ((5, 8), (8, 8), (30, 30)):
        longer = with_room(rows, needed)
        assert len(longer) == room
        assert longer.dtype == rows.dtype
        assert np.array_equal(longer[:4], rows)


def test_one_row_is_copied_and_no_other() -> None:
    source, target = np.arange(6.0).reshape(2, 3), np.zeros((3, 3))
    copy_row(source, 1, target, 2)
    assert target.tolist() == [[0, 0, 0], [0, 0, 0], [3, 4, 5]]
