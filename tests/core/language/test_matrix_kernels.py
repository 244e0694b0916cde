"""Determinants and inverses beside linalg."""

import numpy as np
import pytest

from reticula.core.language.matrix_kernels import determinants, inverses


@pytest.mark.parametrize("size", [3, 4])
def test_they_are_those_of_linalg(size: int) -> None:
    m = np.random.default_rng(size).normal(size=(50, size, size))
    np.testing.assert_allclose(determinants(m), np.linalg.det(m), rtol=1e-9)
    np.testing.assert_allclose(inverses(m) @ m, np.tile(np.eye(size), (50, 1, 1)), atol=1e-9)


@pytest.mark.parametrize("size", [3, 4])
def test_what_has_no_inverse_gives_0(size: int) -> None:
    assert not inverses(np.zeros((1, size, size))).any()
