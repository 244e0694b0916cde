"""Vertices joined to points."""

import numpy as np

from reticula.core.formats.shared.joined_points import joined_points

PLACES = np.array([[0, 0, 0], [1, 0, 0], [0, 0, -0.0], [0, 0, 1e-300]])


def test_equal_places_are_one_point_whatever_the_sign_of_zero() -> None:
    joined = joined_points(PLACES)
    assert joined.first.tolist() == [0, 1, 3]
    assert joined.point.tolist() == [0, 1, 0, 2]


def test_values_that_agree_are_of_points() -> None:
    joined = joined_points(PLACES)
    every = np.ones(4, bool)
    assert joined.of_points(np.array([5, 6, 5, 7]), every).tolist() == [5, 6, 7]
    assert joined.of_points(np.array([5, 6, 4, 7]), every) is None
    assert np.isnan(joined.of_points(np.array([np.nan, 6, np.nan, 7]), every)[0])


def test_vertices_without_a_value_take_that_of_their_point() -> None:
    joined = joined_points(PLACES)
    some = np.array([False, True, True, False])
    assert joined.of_points(np.array([9.0, 6.0, 4.0, 9.0]), some).tolist() == [4, 6, 0]
