"""The largest distance between two surfaces."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.spatial.deviation import farthest_between

BOX = ops.box()


@pytest.mark.parametrize("far", [0.0, 0.25, 3.0])
def test_sheets_one_above_the_other(far: float) -> None:
    sheet = ops.grid()
    assert farthest_between(sheet, ops.transform(sheet, move=(0, far, 0))) == pytest.approx(far)


def test_both_ways_count() -> None:
    half = ops.remove(ops.grid(), where="position.x > 0")
    assert farthest_between(half, ops.grid()) == pytest.approx(0.5)
    assert farthest_between(ops.grid(), half) == pytest.approx(0.5)


def test_a_ball_in_its_box() -> None:
    ball = ops.geodesic_sphere(radius=0.5, frequency=20)
    assert farthest_between(ball, BOX) == pytest.approx(np.sqrt(0.75) - 0.5, abs=2e-3)


def test_nothing_is_infinitely_far() -> None:
    assert farthest_between(BOX, Geo.empty()) == np.inf
