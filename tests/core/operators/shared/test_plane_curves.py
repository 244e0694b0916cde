"""Curves in a plane: which way they look, and which points belong to which."""

import numpy as np
import pytest

from reticula.core.operators.shared.plane_curves import curves_of, place_in_plane

SQUARE = np.array([[0, 0], [1, 0], [1, 1], [0, 1]], float)


@pytest.mark.parametrize(("facing", "normal"), [("up", [0, 1, 0]), ("forward", [0, 0, 1]), ("side", [1, 0, 0])])
def test_counter_clockwise_seen_from_where_the_plane_looks(facing: str, normal: list[float]) -> None:
    made = place_in_plane(SQUARE, facing)
    turned = np.cross(made, np.roll(made, -1, axis=0)).sum(axis=0) / 2
    assert turned == pytest.approx(normal), "the area of the square, along the normal of the plane"


def test_each_curve_has_its_own_points() -> None:
    made = curves_of(np.zeros((7, 3)), [4, 3], closed=True)
    assert made.topology.curve_start.tolist() == [0, 4, 7]
    assert made.topology.curve_closed.tolist() == [True, True]
    assert curves_of(np.zeros((0, 3)), [], closed=False).counts["curves"] == 0
