"""Turns and curvature of curves: circles and polygons in closed form."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.geometry.measure.curve_bends import curve_bends, curve_turns


@pytest.mark.parametrize("sides", [3, 4, 17])
@pytest.mark.parametrize("radius", [1e-3, 2.0])
def test_a_regular_polygon_turns_by_the_same_everywhere(sides: int, radius: float) -> None:
    made = ops.regular_polygon(sides=sides, radius=radius)
    assert curve_turns(made) == pytest.approx(np.full(sides, 360 / sides))
    assert curve_bends(made) == pytest.approx(np.full(sides, 1 / radius))


def test_ends_and_straight_points_do_not_turn() -> None:
    line = ops.line(segments=4)
    assert curve_turns(line) == pytest.approx(np.zeros(5), abs=1e-6)
    corner = Geo.of([[0, 0, 0], [1, 0, 0], [1, 0, 1]], ops.line(segments=2).topology)
    assert curve_turns(corner) == pytest.approx([0, 90, 0])


def test_where_points_lie_in_one_place_nothing_bends() -> None:
    made = Geo.of([[0, 0, 0], [0, 0, 0], [1, 0, 0]], ops.line(segments=2).topology)
    assert np.isfinite(curve_bends(made)).all()
    assert curve_turns(ops.grid()).tolist() == [0] * 121
