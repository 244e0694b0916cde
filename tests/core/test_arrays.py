"""Small helpers on arrays, ragged ones above all."""

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from reticula.core.arrays import as_readonly, as_rows, flat_rows, following_in_rows, ragged_index, starts_from_sizes


@given(st.lists(st.integers(0, 5), max_size=8), st.data())
def test_rows_of_a_ragged_array_are_found(sizes: list[int], data: st.DataObject) -> None:
    start = starts_from_sizes(np.array(sizes, np.int64))
    rows = data.draw(st.lists(st.integers(-1, len(sizes) - 1), max_size=8))
    flat, begin = ragged_index(start, np.array(rows, np.int64))
    for number, row in enumerate(rows):
        wanted = list(range(start[row], start[row + 1])) if row >= 0 else []
        assert flat[begin[number] : begin[number + 1]].tolist() == wanted


def test_what_is_read_only_cannot_be_written() -> None:
    assert not as_readonly(np.zeros(3)).flags.writeable
    assert as_readonly(np.zeros((4, 3)).T).flags.c_contiguous


def test_rows_of_nothing_have_a_width() -> None:
    assert as_rows(np.zeros((0, 4, 4))).shape == (0, 16)
    assert flat_rows(np.zeros((2, 3), np.int32)).dtype == np.float64


def test_the_one_after_the_last_of_a_row_is_the_first() -> None:
    assert following_in_rows(np.array([0, 3, 3, 5])).tolist() == [1, 2, 0, 4, 3]
    assert following_in_rows(np.zeros(1, int)).tolist() == []
