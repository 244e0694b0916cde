"""Rows told apart, and put in order."""

from __future__ import annotations

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from reticula.core.equal_rows import row_order, unique_rows


@given(st.lists(st.tuples(st.integers(-3, 3), st.integers(-3, 3)), max_size=20))
def test_different_rows_come_in_order_of_their_first_place(rows: list[tuple[int, int]]) -> None:
    first, which = unique_rows(np.array(rows, np.int64).reshape(-1, 2))
    different = list(dict.fromkeys(rows))
    assert [rows[at] for at in first] == different
    assert [different[at] for at in which] == rows


def test_rows_with_the_same_hash_are_told_apart() -> None:
    # The hash begins at 0 and takes the columns one after the other: a row of zeros stays at 0, however long.
    rows = np.zeros((3, 4), np.int64)
    rows[1, 3] = 1
    first, which = unique_rows(rows)
    assert (first.tolist(), which.tolist()) == ([0, 1], [0, 1, 0])
    assert unique_rows(np.zeros((0, 2), np.int64))[0].tolist() == []


@given(st.lists(st.tuples(st.integers(-2, 2), st.integers(-2, 2), st.integers(-2, 2))))
def test_the_order_of_rows_is_that_of_tuples(rows: list[tuple[int, int, int]]) -> None:
    order = row_order(np.array(rows, np.float64).reshape(-1, 3))
    assert [rows[at] for at in order] == sorted(rows)
    assert order.tolist() == sorted(range(len(rows)), key=lambda at: rows[at])
