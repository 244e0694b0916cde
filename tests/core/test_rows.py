"""Rows of vectors, beside NumPy's own functions."""

import numpy as np
import pytest

from reticula.core.rows import nonzero_rows, row_crosses, row_dots, row_lengths, rows_at, unit


@pytest.mark.parametrize("width", [2, 3, 4])
def test_products_and_lengths_are_those_of_numpy(width: int) -> None:
    a, b = np.random.default_rng(3).normal(size=(2, 10_001, width))
    assert np.allclose(row_dots(a, b), np.einsum("ij,ij->i", a, b), rtol=1e-15, atol=1e-15)
    assert np.array_equal(row_lengths(a), np.linalg.norm(a, axis=1))
    if width == 3:
        assert np.array_equal(row_crosses(a, b), np.cross(a, b))
        assert np.array_equal(row_crosses(a[::-1], b[::-1]), np.cross(a, b)[::-1]), "of any layout"


def test_rows_of_no_length_stay() -> None:
    assert unit(np.array([[0, 0, 0], [0, 3, 4.0]])).tolist() == [[0, 0, 0], [0, 0.6, 0.8]]
    assert unit(np.array([[0, 0], [3, 4.0]])).tolist() == [[0, 0], [0.6, 0.8]]
    assert unit(np.zeros((0, 3))).shape == (0, 3)


def test_rows_are_found_and_taken() -> None:
    rows = np.array([[0, 0, 0], [0, 2, 0], [np.nan, 0, 0]])
    assert nonzero_rows(rows).tolist() == [False, True, True]
    assert nonzero_rows(rows > 1).tolist() == [False, True, False]
    assert rows_at(rows, np.array([[1, 0], [1, 1]])).shape == (2, 2, 3)
