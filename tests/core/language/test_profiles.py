"""Response curves and gradients, beside SciPy and NumPy."""

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from scipy.interpolate import PchipInterpolator

from reticula.core.language.profiles import Gradient, Response, profile_of


@given(st.integers(2, 8), st.integers(0, 10**6))
def test_a_response_is_monotone_between_its_points(count: int, seed: int) -> None:
    rng = np.random.default_rng(seed)
    points = np.column_stack([np.cumsum(0.1 + rng.random(count)), rng.normal(size=count)])
    made = Response(points)
    at = np.linspace(points[0, 0] - 1, points[-1, 0] + 1, 300)
    assert np.allclose(made(points[:, 0]), points[:, 1])
    assert (made(at) <= points[:, 1].max() + 1e-12).all()
    assert (made(at) >= points[:, 1].min() - 1e-12).all()
    inside = at[(at >= points[0, 0]) & (at <= points[-1, 0])]
    assert np.allclose(made(inside), PchipInterpolator(*points.T)(inside))


def test_the_table_says_the_same() -> None:
    made = Response([(0, 0), (0.4, 1), (1, 0.5)])
    for begin, end, *powers in made.table():
        middle = (begin + end) / 2
        assert np.isclose(np.polyval(powers, middle - begin), made(np.array([middle]))[0])


def test_one_point_is_level() -> None:
    assert Response([(0.5, 1)]).level
    assert Response([(0.5, 3)])(np.array([-1.0, 9])).tolist() == [3, 3]


def test_a_gradient_goes_on_beyond_its_ends() -> None:
    made = profile_of("gradient", [(0, 1, 0, 0, 1), (2, 0, 0, 1, 1)])
    assert isinstance(made, Gradient)
    assert made(np.array([-5, 1, 5.0])).tolist() == [[1, 0, 0, 1], [0.5, 0, 0.5, 1], [0, 0, 1, 1]]
    assert made.table().shape == (2, 5)
    assert profile_of("gradient", made) is made
