"""Offset curve: make curves at a distance from curves, in their plane."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.geometry import measure


class TestOffset:
    @pytest.mark.parametrize(
        ("corners", "distance", "area"), [("sharp", 0.1, 1.44), ("sharp", -0.1, 0.64), ("cut", 0.1, 1.42)]
    )
    def test_area_of_a_square(self, corners: str, distance: float, area: float) -> None:
        made = ops.offset_curve(ops.rectangle(), distance=distance, corners=corners, keep_curves=False)
        assert ops.offset_curve(ops.rectangle(), distance=distance).group("curve", "offset").tolist() == [False, True]
        filled = ops.fill(made, what="curve")
        assert measure.face_areas(filled).sum() == pytest.approx(area)

    def test_a_curve_may_fall_apart_or_vanish(self, notes: list[Note]) -> None:
        waist = Geo.of(
            [[0, 0, 0], [1, 0, 0.4], [2, 0, 0], [2, 0, 1], [1, 0, 0.6], [0, 0, 1]],
            ops.regular_polygon(sides=6).topology,
        )
        assert ops.offset_curve(waist, distance=-0.13, keep_curves=False).counts["curves"] == 2
        assert ops.offset_curve(waist, distance=-5, keep_curves=False).counts["curves"] == 0
        assert "too narrow" in notes[-1].text

    def test_open_curves_in_any_plane(self) -> None:
        made = ops.offset_curve(ops.arc(radius=1, facing="side"), distance=0.25, keep_curves=False)
        away = np.linalg.norm(made.positions, axis=1)
        assert away == pytest.approx(np.full(len(away), away[0]), rel=1e-2)
        assert abs(away[0] - 1) == pytest.approx(0.25, rel=1e-2)
