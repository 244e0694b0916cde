"""Polygons cut into triangles: area and winding, on random star-shaped outlines."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core.geometry.planar.ear_clipping import cut_polygons


def outline(seed: int, sides: int) -> np.ndarray:
    """A star-shaped outline around the origin, counter-clockwise."""
    rng = np.random.default_rng(seed)
    turns = np.sort(rng.random(sides)) * 0.5 + np.arange(sides)
    turns *= 2 * np.pi / sides
    far = 0.3 + rng.random(sides)
    return np.stack([far * np.cos(turns), far * np.sin(turns), np.zeros(sides)], axis=1)


@given(st.integers(0, 2**31), st.one_of(st.integers(3, 70), st.integers(65, 400)), st.booleans())
def test_triangles_cover_the_outline(seed: int, sides: int, shortest: bool) -> None:
    places = outline(seed, sides)
    x, y = places[:, 0], places[:, 1]
    area = 0.5 * (x * np.roll(y, -1) - y * np.roll(x, -1)).sum()
    point = np.arange(sides, dtype=np.int32)
    up = np.array([[0.0, 0.0, 1.0]])
    corner, face = cut_polygons(places, np.array([0, sides], np.int32), point, up, shortest=shortest)
    assert corner.shape == (sides - 2, 3)
    assert not face.any()
    at = places[corner]
    parts = 0.5 * np.cross(at[:, 1] - at[:, 0], at[:, 2] - at[:, 0])[:, 2]
    assert np.isclose(np.abs(parts).sum(), area)
    assert (parts > -1e-12).all()


def test_a_quad_is_cut_along_its_shorter_way_unless_the_first_is_asked_for() -> None:
    kite = np.array([[0, 0, 0], [3, -0.5, 0], [6, 0, 0], [3, 0.5, 0]], float)
    asked = (kite, np.array([0, 4], np.int32), np.arange(4, dtype=np.int32), np.array([[0, 0, 1.0]]))
    assert {*cut_polygons(*asked, shortest=False)[0][0].tolist()} == {0, 1, 2}
    assert {1, 3} <= {*cut_polygons(*asked)[0][0].tolist()}


@pytest.mark.parametrize("turn", np.linspace(0, 3, 7))
def test_a_square_is_cut_from_its_first_corner_however_it_is_turned(turn: float) -> None:
    angle = turn + 0.5 * np.pi * np.arange(4)
    square = 1e4 + np.stack([np.cos(angle), np.sin(angle), 0 * angle], axis=1)
    made = cut_polygons(square, np.array([0, 4], np.int32), np.arange(4, dtype=np.int32), np.array([[0, 0, 1.0]]))[0]
    assert made.tolist() == [[0, 1, 2], [0, 2, 3]]
