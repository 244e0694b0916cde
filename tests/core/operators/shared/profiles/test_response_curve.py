"""Response curves: what is taken, and a curve that goes through its points without overshooting."""

from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core.errors import ParameterError
from reticula.core.operators.shared.profiles.response_curve import Response, ResponseCurve

CURVE = ResponseCurve("profile", [[0.0, 0.0], [1.0, 1.0]], "help")


@pytest.mark.parametrize(
    ("given", "message"),
    [
        (3, "takes 1 to 64 points"),
        ([], "takes 1 to 64 points"),
        ([[0, 0, 0]], r"takes points \(x, y\), each with or without a step"),
        ([[0, 0], [0, 1], [0, 2]], "at most two points are at one place"),
        ([[0, 0], [1e-9, 1]], "points 1 and 2 are nearer than 1e-06"),
        ([[0, 0, "steep"], [1, 1]], "goes on from a point smooth, straight, constant, not 'steep'"),
        ([[0.5, 0], [0.2, 1]], "in order of x; point 2 is at 0.2, before point 1 at 0.5"),
        ([[2, 0]], "2 is outside of 0 to 1"),
        ([[0, -1]], "-1 is outside of 0"),
    ],
)
def test_what_is_no_curve_is_refused(given: Any, message: str) -> None:
    with pytest.raises(ParameterError, match=message):
        CURVE.check(given)


@given(st.lists(st.floats(0, 2), min_size=2, max_size=8), st.floats(0, 1))
def test_it_stays_between_neighbouring_points(heights: list[float], share: float) -> None:
    x = np.linspace(0, 1, len(heights))
    response = CURVE.resolve(CURVE.check(np.stack([x, heights], axis=1).tolist()), None)
    assert response(x) == pytest.approx(heights)
    at = min(int(share * (len(heights) - 1)), len(heights) - 2)
    low, high = sorted(heights[at : at + 2])
    assert low - 1e-9 <= float(response(np.array([share]))[0]) <= high + 1e-9


def test_one_point_is_the_same_everywhere() -> None:
    assert Response([[0.5, 0.7]])(np.array([-1.0, 0.0, 0.5, 9.0])).tolist() == [0.7] * 4


def test_a_curve_goes_on_as_each_point_says() -> None:
    given = CURVE.check([[0, 0, "straight"], [0.25, 1, "constant"], [0.5, 2], [0.5, 0, "smooth"], [1, 1]])
    assert given == [[0, 0, "straight"], [0.25, 1, "constant"], [0.5, 2], [0.5, 0], [1, 1]]
    made = CURVE.resolve(given, None)(np.array([-1, 0.1, 0.25, 0.49, 0.5, 0.75, 1, 2]))
    assert made.tolist() == [0, 0.4, 1, 1, 0, 0.5, 1, 1]
