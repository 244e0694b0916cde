"""All points within a radius, beside SciPy."""

import numpy as np
from scipy.spatial import cKDTree

from reticula.core import Geo
from tests.core.language.questions.asking import value


def test_neighbours_as_lists(sheet: Geo, ball: Geo) -> None:
    tree = cKDTree(sheet.positions)
    counts = [len(row) for row in tree.query_ball_point(sheet.positions, 0.2)]
    np.testing.assert_array_equal(value("len(geo.near(position, 0.2))", sheet, ball), counts)
    assert value("len(geo.near(position, 9, 4))", sheet, ball).tolist() == [4] * 49
    middle = value("mean(geo.near(position, 0.2).position)", sheet, ball)
    np.testing.assert_allclose(middle[24], sheet.positions[24], atol=1e-12)
    assert value("mean(ball.near(position, 0.001).heat)", sheet, ball).tolist() == [0.0] * 49


def test_the_most_may_be_given_by_name(sheet: Geo, ball: Geo) -> None:
    assert value("len(geo.near(position, 9, most=3))", sheet, ball).tolist() == [3] * 49
