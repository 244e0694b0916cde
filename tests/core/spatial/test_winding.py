"""How often a mesh goes around a place (van Oosterom and Strackee 1983; Jacobson et al. 2013)."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import Geo, ops
from reticula.core.errors import GeometryError
from reticula.core.spatial.winding import winding_numbers
from tests.helpers import bumpy


@given(st.integers(0, 10**6))
def test_the_quick_sum_is_near_the_exact_one(seed: int) -> None:
    places = np.random.default_rng(seed).uniform(-2, 2, (50, 3))
    ball = bumpy(seed)
    quick, exact = winding_numbers(ball, places), winding_numbers(ball, places, exact=True)
    np.testing.assert_allclose(exact, np.round(exact), atol=1e-9)
    np.testing.assert_allclose(quick, exact, atol=0.05)


def test_one_inside_none_outside_and_less_if_turned_over() -> None:
    box = ops.box(size=(2, 2, 2))
    places = np.array([[0, 0, 0], [3, 0, 0.0]])
    assert winding_numbers(box, places, exact=True) == pytest.approx([1, 0], abs=1e-12)
    assert winding_numbers(ops.reverse(box), places, exact=True) == pytest.approx([-1, 0], abs=1e-12)


def test_an_open_sheet_covers_half_of_what_a_place_on_it_sees() -> None:
    sheet = ops.grid(size=(2000, 2000), cells=(4, 4))
    above, below = winding_numbers(sheet, np.array([[0, 0.01, 0], [0, -0.01, 0]]), exact=True)
    assert above == pytest.approx(-0.5, abs=1e-4)
    assert below == pytest.approx(0.5, abs=1e-4)


def test_without_faces_there_is_nothing_to_go_around() -> None:
    with pytest.raises(GeometryError):
        winding_numbers(Geo.of([[0, 0, 0]]), np.zeros((1, 3)))
