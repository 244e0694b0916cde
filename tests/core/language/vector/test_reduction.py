"""Ragged rows as one value each, beside NumPy row by row; what an empty row gives."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core.language.vector.reduction import reduce

ROWS = st.lists(st.lists(st.floats(-100, 100), max_size=6), min_size=1, max_size=6)
NUMPY = {
    "mean": np.mean,
    "sum": np.sum,
    "min": np.min,
    "max": np.max,
    "median": np.median,
    "deviation": np.std,
}


@pytest.mark.parametrize("how", NUMPY)
@given(rows=ROWS)
def test_each_row_by_itself(how: str, rows: list[list[float]]) -> None:
    start = np.cumsum([0, *(len(row) for row in rows)])
    values = np.array([value for row in rows for value in row])
    expected = [NUMPY[how](row) if row else 0.0 for row in rows]
    assert reduce(how, start, values) == pytest.approx(expected, abs=1e-9)


def test_flags() -> None:
    start = np.array([0, 2, 2, 3])
    flags = np.array([True, False, True])
    assert reduce("any", start, flags).tolist() == [True, False, True]
    assert reduce("all", start, flags).tolist() == [False, True, True], "all of nothing holds"


def test_vectors_are_reduced_component_by_component() -> None:
    values = np.array([[1.0, 2, 3], [3, 4, 5], [7, 8, 9]])
    assert reduce("mean", np.array([0, 2, 3]), values).tolist() == [[2, 3, 4], [7, 8, 9]]
