"""Values of pictures, held against SciPy's interpolation, and places that are far away or no numbers."""

from __future__ import annotations

import numpy as np
import pytest
from scipy import ndimage

from reticula.core.geometry.pictures.sampling import BETWEEN, BEYOND, sample_picture

SCIPY = {"clamp": "nearest", "repeat": "grid-wrap", "mirror": "reflect"}


def asked(pixels: np.ndarray, places: np.ndarray, between: str = "linear", beyond: str = "clamp") -> np.ndarray:
    rows, columns, channels = pixels.shape
    rules = list(BETWEEN).index(between), list(BEYOND).index(beyond)
    return sample_picture(pixels.reshape(-1, channels).astype(np.float32), (columns, rows), rules, places)


@pytest.mark.parametrize("between", BETWEEN)
@pytest.mark.parametrize("beyond", SCIPY)
def test_values_are_those_of_scipy(between: str, beyond: str) -> None:
    """scipy.ndimage.map_coordinates of order 1 (or 0), with the same rule for its edges."""
    rng = np.random.default_rng(5)
    pixels = rng.random((7, 5, 3)).astype(np.float32)
    places = rng.uniform(-2.3, 3.2, (500, 2))
    at = np.stack([(1 - places[:, 1]) * 7 - 0.5, places[:, 0] * 5 - 0.5])
    order = 1 if between == "linear" else 0
    expected = np.stack(
        [
            ndimage.map_coordinates(pixels[..., k].astype(np.float64), at, order=order, mode=SCIPY[beyond])
            for k in range(3)
        ],
        axis=1,
    )
    made = asked(pixels, places, between, beyond)
    np.testing.assert_allclose(made[:, :3], expected, atol=1e-12)
    assert (made[:, 3] == 1).all()


def test_pixels_stand_in_the_middle_of_their_areas_and_v_goes_up() -> None:
    pixels = np.arange(6.0).reshape(2, 3, 1)
    places = np.array([[1 / 6, 0.75], [5 / 6, 0.75], [1 / 6, 0.25], [0.0, 0.0], [1.0, 1.0]])
    assert asked(pixels, places)[:, 0].tolist() == pytest.approx([0, 2, 3, 3, 2])


def test_channels_become_four() -> None:
    middle = np.array([[0.5, 0.5]])
    assert asked(np.full((1, 1, 1), 0.25), middle).tolist() == [[0.25, 0.25, 0.25, 1]]
    assert asked(np.array([[[0.25, 0.5]]]), middle).tolist() == [[0.25, 0.25, 0.25, 0.5]]
    assert asked(np.array([[[0.25, 0.5, 0.75]]]), middle).tolist() == [[0.25, 0.5, 0.75, 1]]
    assert asked(np.array([[[0.25, 0.5, 0.75, 0]]]), middle).tolist() == [[0.25, 0.5, 0.75, 0]]


def test_nothing_is_beyond_a_picture_if_so_told() -> None:
    places = np.array([[-0.001, 0.5], [0.5, 1.001], [0.0, 1.0]])
    assert asked(np.ones((2, 2, 1)), places, beyond="nothing").tolist() == [[0] * 4, [0] * 4, [1] * 4]


@pytest.mark.parametrize("beyond", BEYOND)
def test_far_places_and_no_numbers_are_survived(beyond: str) -> None:
    places = np.array([[np.nan, 0.5], [0.5, np.inf], [1e300, -1e300], [-1e17, 0.3]])
    made = asked(np.arange(12.0).reshape(3, 4, 1), places, beyond=beyond)
    assert np.isfinite(made).all()
    assert made[:2].tolist() == [[0] * 4] * 2
