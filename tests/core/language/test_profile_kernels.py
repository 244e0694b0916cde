"""Response curves and gradients beside SciPy and NumPy, before, between and after their points."""

import numpy as np
from scipy.interpolate import PchipInterpolator

from reticula.core.language.profiles import Gradient, Response

AT = np.linspace(-0.5, 1.5, 201)
POINTS = [[0.0, 0.2], [0.3, 1.0], [0.35, 0.4], [1.0, 0.9]]


def test_responses_are_monotone_cubics() -> None:
    expected = PchipInterpolator(*np.transpose(POINTS))(np.clip(AT, 0, 1))
    np.testing.assert_allclose(Response(POINTS)(AT), expected, atol=1e-14)
    assert np.isnan(Response(POINTS)(np.array([np.nan]))).all()
    assert Response([[0.5, 3.0]])(AT).tolist() == [3.0] * len(AT)


def test_gradients_are_linear() -> None:
    stops = [[0.1, 0, 0.5, 1, 1], [0.4, 1, 0, 0, 0.5], [0.9, 0.2, 0.2, 0.2, 1]]
    made = Gradient(stops)(AT)
    for channel in range(4):
        expected = np.interp(AT, [0.1, 0.4, 0.9], [stop[channel + 1] for stop in stops])
        np.testing.assert_allclose(made[:, channel], expected, atol=1e-14)
