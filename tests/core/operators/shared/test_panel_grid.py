"""Coordinates over a surface, their metres, and seams."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import collecting
from reticula.core.errors import GeometryError
from reticula.core.operators.shared.panel_grid import chart_of, parted_at_seams


def every(count: int) -> np.ndarray:
    return np.ones(count, bool)


def test_metres_of_a_sheet_and_of_a_tube() -> None:
    sheet = ops.grid(size=(3, 2))
    assert chart_of(sheet, every(100), "uv").size == pytest.approx([3, 2])
    assert chart_of(sheet, every(100), "flat").size == pytest.approx([3, 2])
    tube = ops.remove(ops.cylinder(segments=200), where="cap")
    chart = chart_of(tube, every(tube.counts["faces"]), "uv")
    assert chart.size[0] == pytest.approx(np.pi, rel=1e-3)
    assert chart.wraps.tolist() == [True, False]


def test_what_closes_is_laid_along_its_largest_extents() -> None:
    with pytest.warns(match="closes"):
        chart = chart_of(ops.box(size=(4, 1, 2)), every(6), "flat")
    assert chart.size == pytest.approx([4, 2], rel=0.5)


def test_what_has_no_extent_cannot_be_divided() -> None:
    line = Geo.from_faces([[0, 0, 0], [1, 0, 0], [2, 0, 0]], [[0, 1, 2]])
    with collecting(), pytest.raises(GeometryError, match="no extent"):
        chart_of(line, every(1), "flat")


def test_faces_are_parted_along_seams_only() -> None:
    tube = ops.remove(ops.cylinder(segments=12), where="cap")
    at = chart_of(tube, every(tube.counts["faces"]), "uv").at
    made = parted_at_seams(tube, at)
    assert made.counts["points"] == tube.counts["points"] + 2
    sheet = ops.grid()
    assert parted_at_seams(sheet, chart_of(sheet, every(100), "uv").at) is sheet
