"""Gradients: what is taken, colours at and between stops, and the sRGB curve of IEC 61966-2-1."""

from typing import Any

import numpy as np
import pytest

from reticula.core.errors import ParameterError
from reticula.core.operators.shared.profiles.gradient import ColorGradient, Gradient

GRADIENT = ColorGradient("colors", [[0, 0, 0, 0, 1], [1, 1, 1, 1, 1]], "help")


@pytest.mark.parametrize(
    ("given", "message"),
    [
        ("red", "takes 1 to 64 stops"),
        ([[0, 1, 1, 1]], "takes stops .* each with or without a step"),
        ([[0.5, 0, 0, 0, 1], [0.2, 1, 1, 1, 1]], "in order of x"),
        ([[0, 0, 0, 0, 2]], "2 is outside of 0 to 1"),
    ],
)
def test_what_is_no_gradient_is_refused(given: Any, message: str) -> None:
    with pytest.raises(ParameterError, match=message):
        GRADIENT.check(given)


def test_colours_between_stops_are_blended_in_linear_light() -> None:
    made = Gradient([[0.2, 1, 0, 0, 1], [0.6, 0, 0, 1, 0]])(np.array([0.0, 0.2, 0.4, 0.6, 1.0]))
    assert made == pytest.approx(np.array([[1, 0, 0, 1], [1, 0, 0, 1], [0.5, 0, 0.5, 0.5], [0, 0, 1, 0], [0, 0, 1, 0]]))


def test_two_stops_at_one_place_are_an_edge() -> None:
    made = Gradient([[0.5, 0, 0, 0, 1], [0.5, 1, 1, 1, 1]])(np.array([0.49, 0.5, 0.51]))
    assert made[:, 0].tolist() == [0, 1, 1]


def test_a_gradient_goes_on_as_each_stop_says() -> None:
    stops = GRADIENT.check([[0, 0, 0, 0, 1, "constant"], [0.5, 1, 1, 1, 1, "straight"], [1, 0, 0, 0, 1]])
    assert stops[1] == [0.5, 1, 1, 1, 1]
    assert GRADIENT.resolve(stops, None)(np.array([0.4, 0.5, 0.75]))[:, 0].tolist() == [0, 1, 0.5]
