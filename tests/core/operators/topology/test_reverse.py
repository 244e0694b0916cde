"""Reverse: turn faces over, so that they look the other way, or run curves from their end to their beginning."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from tests.helpers import volume


class TestReverse:
    def test_reverse_faces(self, cube: Geo) -> None:
        made = ops.reverse(cube)
        assert volume(made) == pytest.approx(-8)
        assert made.topology.corner_point[::4].tolist() == cube.topology.corner_point[::4].tolist(), (
            "first corners stay"
        )
        assert np.array_equal(ops.reverse(made).positions, cube.positions)
        assert ops.reverse(made).topology.corner_point.tolist() == cube.topology.corner_point.tolist()

    def test_reverse_curves(self, mixed: Geo) -> None:
        made = ops.reverse(mixed, kind="curve")
        assert made.topology.curve_point.tolist() == [4, 1, 0, 3, 2, 7]
