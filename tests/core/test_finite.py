"""Numbers that are none are found wherever they are, beside NumPy's own answer."""

import numpy as np
import pytest

from reticula.core.finite import MANY, all_finite


@pytest.mark.parametrize("count", [10, MANY + 1])
@pytest.mark.parametrize("value", [np.nan, -np.nan, np.inf, -np.inf])
def test_one_is_found(count: int, value: float) -> None:
    values = np.full((count, 3), np.finfo(float).max)
    assert all_finite(values), "the largest numbers are finite, though their sum is not"
    values[count // 2, 1] = value
    assert not all_finite(values)
    assert not all_finite(values[:, 1])

    short = np.ones((count, 3), np.float32)
    short[count // 2, 1] = value
    assert not all_finite(short)


def test_what_holds_no_fractions_is_finite() -> None:
    assert all_finite(np.array(["nan"]))
    assert all_finite(np.zeros(0))
    assert all_finite(np.arange(3))
    assert all_finite(np.array([-0.0, 5e-324]))
