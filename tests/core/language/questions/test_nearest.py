"""The nearest point, beside SciPy."""

import numpy as np
from scipy.spatial import cKDTree

from reticula.core import Geo
from tests.core.language.questions.asking import value


def test_the_nearest_point_and_how_far_it_is(sheet: Geo, ball: Geo) -> None:
    far, index = cKDTree(ball.positions).query(sheet.positions)
    np.testing.assert_allclose(value("ball.nearest(position).distance", sheet, ball), far)
    found = value("ball.nearest(position).index", sheet, ball)
    np.testing.assert_allclose(np.linalg.norm(ball.positions[found] - sheet.positions, axis=1), far)
    assert (found == index).mean() > 0.8, "others lie as near"


def test_none_is_found_beyond_the_reach(sheet: Geo, ball: Geo) -> None:
    assert value("ball.nearest(position, 0.01).index", sheet, ball).tolist() == [-1] * 49
