"""Values between keys beside closed forms.

The smooth way is a monotone cubic: F. N. Fritsch and R. E. Carlson, "Monotone piecewise cubic interpolation", SIAM J.
Numer. Anal. 17 (1980) 238-246, with the slopes of F. N. Fritsch and J. Butland, "A method for constructing local
monotone piecewise cubic interpolants", SIAM J. Sci. Stat. Comput. 5 (1984) 300-304, in the form that takes the widths
of the intervals in. The data set RPN 14 of the first paper is given from memory.
"""

from __future__ import annotations

import numpy as np
import pytest

from reticula.core.graph.time.keys import Keys

RPN_14 = (
    np.array([7.99, 8.09, 8.19, 8.7, 9.2, 10.0, 12.0, 15.0, 20.0]),
    np.array([0.0, 2.76429e-5, 4.37498e-2, 0.169183, 0.469428, 0.943740, 0.998636, 0.999919, 0.999994]),
)


def smooth(at: np.ndarray, values: np.ndarray) -> Keys:
    return Keys(at, tuple(values.tolist()), ("smooth",) * len(at))


def harmonic_slopes(at: np.ndarray, values: np.ndarray) -> np.ndarray:
    """The slopes inside: weighted harmonic means of the secants on both sides (all of one sign)."""
    width, secant = np.diff(at), np.diff(values) / np.diff(at)
    left, right = 2 * width[1:] + width[:-1], width[1:] + 2 * width[:-1]
    return (left + right) / (left / secant[:-1] + right / secant[1:])


def test_between_inner_keys_is_hermites_cubic_with_harmonic_slopes() -> None:
    at, values = RPN_14
    keys, slopes = smooth(at, values), harmonic_slopes(at, values)
    for k in range(1, len(at) - 2):
        width, s = at[k + 1] - at[k], np.linspace(0, 1, 21)[:-1]
        expected = (
            (2 * s**3 - 3 * s**2 + 1) * values[k]
            + (s**3 - 2 * s**2 + s) * width * slopes[k - 1]
            + (3 * s**2 - 2 * s**3) * values[k + 1]
            + (s**3 - s**2) * width * slopes[k]
        )
        found = [keys.at(frame, "real") for frame in at[k] + s * width]
        assert np.allclose(found, expected, rtol=0, atol=1e-13)


def test_the_slopes_lie_where_the_paper_says_that_cubics_stay_monotone() -> None:
    at, values = RPN_14
    slopes, secants = harmonic_slopes(at, values), np.diff(values) / np.diff(at)
    for both in (slopes[:-1], slopes[1:]):
        assert np.all(both <= 3 * secants[1:-1] * (1 + 1e-12)), "the square of de Boor and Swartz, in region M"
    keys = smooth(at, values)
    assert np.all(np.diff([keys.at(frame, "real") for frame in np.linspace(at[0], at[-1], 4000)]) >= 0.0)


@pytest.mark.parametrize(("out", "into"), [(0.0, 0.0), (0.3, -0.2), (-1.0, 2.0)])
def test_free_tangents_are_hermites_polynomial(out: float, into: float) -> None:
    """p(0) = 1, p(8) = 3, p'(0) = out, p'(8) = into, solved for its coefficients."""
    keys = Keys(np.array([0.0, 8.0]), (1.0, 3.0), ("free", "free"), {(0, "out"): out, (1, "in"): into})
    rows = np.array([[0, 0, 0, 1], [512, 64, 8, 1], [0, 0, 1, 0], [192, 16, 1, 0]], dtype=float)
    cubic = np.linalg.solve(rows, [1.0, 3.0, out, into])
    frames = np.linspace(0, 8, 33)
    assert np.allclose([keys.at(f, "real") for f in frames], np.polyval(cubic, frames), rtol=0, atol=1e-12)
