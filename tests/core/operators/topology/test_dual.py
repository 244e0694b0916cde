"""Dual: put a point in the middle of every face and a face around every point."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.geometry import measure
from tests.helpers import is_closed, outward


class TestDual:
    def test_a_box_becomes_an_octahedron(self, cube: Geo) -> None:
        made = ops.dual(cube)
        assert made.counts["points"] == 6
        assert made.topology.face_size.tolist() == [3] * 8
        assert outward(made).min() > 0
        assert is_closed(made)

    def test_values_change_places(self, cube: Geo) -> None:
        made = ops.dual(cube.with_attribute("face", "side", np.arange(6)).with_attribute("point", "tip", np.arange(8)))
        assert made.attribute("point", "side").tolist() == list(range(6))
        assert made.attribute("face", "tip").tolist() == list(range(8))

    @pytest.mark.parametrize(("border", "area"), [("close", 1.0), ("leave", 0.25)])
    def test_open_borders(self, border: str, area: float, notes: list[Note]) -> None:
        made = ops.dual(ops.grid(cells=(2, 2)), border=border)
        assert measure.area_vectors(made)[:, 1].sum() == pytest.approx(area)

    def test_twice_gives_the_counts_back(self) -> None:
        ball = ops.geodesic_sphere(frequency=3)
        again = ops.dual(ops.dual(ball))
        assert again.counts["points"] == ball.counts["points"]
        assert again.counts["faces"] == ball.counts["faces"]
