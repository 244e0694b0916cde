"""Response curves and gradients, beside SciPy and NumPy."""

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from scipy.interpolate import PchipInterpolator

from reticula.core.language.profiles import STEPS, Gradient, Response, misplaced, powers_between, profile_of


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
    first, *pieces, last = made.table()
    assert first.tolist() == [0, 0, 0, 0, 0, 0]
    assert last.tolist() == [1, 1, 0, 0, 0, 0.5]
    for begin, end, *powers in pieces:
        middle = (begin + end) / 2
        assert np.isclose(np.polyval(powers, middle - begin), made(np.array([middle]))[0])


def test_one_point_is_level() -> None:
    assert Response([(0.5, 1)]).level
    assert Response([(0.5, 3)])(np.array([-1.0, 9])).tolist() == [3, 3]


def test_a_gradient_goes_on_beyond_its_ends() -> None:
    made = profile_of("gradient", [(0, 1, 0, 0, 1), (2, 0, 0, 1, 1)])
    assert isinstance(made, Gradient)
    assert made(np.array([-5, 1, 5.0])).tolist() == [[1, 0, 0, 1], [0.5, 0, 0.5, 1], [0, 0, 1, 1]]
    assert made.table().shape == (3, 18)
    assert profile_of("gradient", made) is made


def test_smooth_runs_know_nothing_of_what_is_beyond_a_jump_or_another_step() -> None:
    run = [(0.2, 1.0), (0.5, 3.0), (0.6, 2.0)]
    made = Response([(0, 9, "straight"), *run[:-1], (*run[-1], "smooth"), (0.6, -5, "constant"), (1, 4)])
    at = np.linspace(0.2, 0.5999, 50)
    assert np.allclose(made(at), PchipInterpolator(*np.transpose(run))(at))
    assert made(np.array([0.1, 0.6, 0.99, 1.0])).tolist() == [5, -5, -5, 4]


@given(st.lists(st.tuples(st.integers(0, 20), st.floats(-5, 5), st.sampled_from(STEPS)), min_size=1, max_size=12))
def test_every_curve_stays_between_its_points_and_meets_the_last_one_of_each_place(
    given: list[tuple[int, float, str]],
) -> None:
    points = [(x / 20, y, step) for x, y, step in sorted(given, key=lambda row: row[0])]
    points = [row for k, row in enumerate(points) if k < 2 or points[k - 2][0] != row[0]]
    assert not misplaced([row[0] for row in points])
    made, x, y = Response(points), [row[0] for row in points], [row[1] for row in points]
    last = dict(zip(x, y, strict=True))
    assert made(np.array(list(last))).tolist() == list(last.values())
    values = made(np.linspace(-0.5, 1.5, 161))
    assert (values >= min(y) - 1e-12).all()
    assert (values <= max(y) + 1e-12).all()


def test_smooth_between_two_points_is_straight_to_the_bit() -> None:
    x, y = np.array([0.25, 1.75]), np.array([[0.1, 2.0], [0.7, -0.3]])
    assert np.array_equal(powers_between(x, y, "smooth"), PchipInterpolator(x, y).c)
    assert np.array_equal(powers_between(x, y, "smooth"), powers_between(x, y, "straight"))
