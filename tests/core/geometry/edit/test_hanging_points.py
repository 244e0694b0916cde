"""Points on edges become corners of the faces there."""

import numpy as np
import pytest

from reticula.core import Geo
from reticula.core.geometry import measure
from reticula.core.geometry.edit.hanging_points import with_hanging_points

STEP = [[0, 0, 0], [2, 0, 0], [2, 1, 0], [0, 1, 0], [1, 1, 0], [2, 2, 0], [1, 2, 0], [0, 2, 0]]


def sheet() -> Geo:
    """A wide face below two narrow ones."""
    geo = Geo.from_faces(STEP, [[0, 1, 2, 3], [3, 4, 6, 7], [4, 2, 5, 6]])
    return geo.with_attribute("corner", "x", geo.positions[geo.topology.corner_point][:, 0])


def test_a_gap_is_closed() -> None:
    geo = sheet()
    made, count = with_hanging_points(geo, np.ones(8, bool), 1e-9)
    assert count == 1
    assert made.topology.face_size.tolist() == [5, 4, 4]
    assert made.topology.border_edges.sum() == 7
    assert made.attribute("corner", "x") == pytest.approx(made.positions[made.topology.corner_point][:, 0])
    assert measure.face_areas(made) == pytest.approx(measure.face_areas(geo))


def test_only_points_that_are_asked_for_and_near() -> None:
    geo = sheet()
    points = np.ones(8, bool)
    points[4] = False
    assert with_hanging_points(geo, points, 1e-9) == (geo, 0)
    lifted = geo.with_positions(geo.positions + np.eye(8)[4][:, None] * [0, 0, 0.01])
    assert with_hanging_points(lifted, np.ones(8, bool), 1e-3)[1] == 0
    assert with_hanging_points(lifted, np.ones(8, bool), 0.02)[1] == 1


def test_several_on_one_edge_come_in_order_from_both_sides() -> None:
    geo = Geo.from_faces(
        [[0, 0, 0], [3, 0, 0], [3, 1, 0], [0, 1, 0], [0, -1, 0], [3, -1, 0], [2, 0, 0], [1, 0, 0]],
        [[0, 1, 2, 3], [1, 0, 4, 5]],
    )
    made, count = with_hanging_points(geo, np.ones(8, bool), 1e-9)
    assert count == 4
    assert made.topology.corner_point.tolist() == [0, 7, 6, 1, 2, 3, 1, 6, 7, 0, 4, 5]
