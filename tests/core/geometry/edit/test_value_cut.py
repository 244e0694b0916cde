"""Meshes cut at levels of a value: bands, edges along the levels, points that snap onto lines."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import ops
from reticula.core.geometry import measure
from reticula.core.geometry.edit.value_cut import cut_at_levels, snap_to_line
from tests.helpers import bumpy, is_closed, volume

SHEET = ops.grid(size=(2, 2), cells=(10, 10))
X = SHEET.positions[:, 0]


@pytest.mark.parametrize("levels", [[0.05], [-0.5, 0.0, 0.31], [5.0], [-1.0, 1.0]])
def test_every_face_lies_in_one_band(levels: list[float]) -> None:
    made = cut_at_levels(SHEET, X, levels, 0.0)
    shape = made.geo.topology
    height = made.geo.positions[:, 0]
    low = np.minimum.reduceat(height[shape.corner_point], shape.face_start[:-1])
    high = np.maximum.reduceat(height[shape.corner_point], shape.face_start[:-1])
    bounds = np.array([-np.inf, *levels, np.inf])
    assert (low >= bounds[made.band] - 1e-9).all()
    assert (high <= bounds[made.band + 1] + 1e-9).all()
    area = np.bincount(made.band, measure.face_areas(made.geo), minlength=len(levels) + 1)
    inside = np.clip(np.diff(np.clip(bounds, -1, 1)), 0, None) * 2
    assert area == pytest.approx(inside)


def test_edges_along_a_level_know_which() -> None:
    made = cut_at_levels(SHEET, X, [-0.5, 0.31], 0.0)
    middle = made.geo.positions[made.geo.topology.edges].mean(axis=1)[:, 0]
    assert middle[made.level == 0] == pytest.approx(np.full(10, -0.5))
    assert middle[made.level == 1] == pytest.approx(np.full(10, 0.31))
    assert (made.level >= 0).sum() == 20


@given(seed=st.integers(0, 10_000), snap=st.floats(0, 0.45), level=st.floats(-0.3, 0.3))
def test_closed_meshes_stay_closed_and_keep_their_volume(seed: int, snap: float, level: float) -> None:
    ball = bumpy(seed, 3)
    made = cut_at_levels(ball, ball.positions @ [0.3, 1.0, -0.2], [level], snap)
    assert is_closed(made.geo)
    assert made.geo.topology.euler_characteristic == 2
    assert volume(made.geo) == pytest.approx(volume(ball), rel=0.05 if snap else 1e-9)


@given(st.floats(-0.9, 0.9), st.floats(0.05, 0.45))
def test_snapping_leaves_no_short_edges_and_a_flat_sheet_flat(level: float, snap: float) -> None:
    made = cut_at_levels(SHEET, X, [level], snap)
    assert measure.face_areas(made.geo).sum() == pytest.approx(4)
    assert measure.face_areas(made.geo).min() > 0.5 * snap * 0.04
    line = made.geo.positions[made.geo.topology.edges[made.level >= 0]]
    assert line[..., 0] == pytest.approx(np.full((10, 2), level))
    assert made.geo.bounds == pytest.approx(SHEET.bounds), "borders stay where they are"


def test_values_go_along_with_points_that_snap() -> None:
    bent = SHEET.with_attribute("point", "linear", X * 3 + 1)
    made = snap_to_line(bent, X - 0.19, 0.4)
    assert (made.positions != SHEET.positions).any()
    assert made.attribute("point", "linear") == pytest.approx(made.positions[:, 0] * 3 + 1)
    place = made.positions[made.topology.corner_point]
    assert made.attribute("corner", "uv")[:, 0] == pytest.approx(place[:, 0] / 2 + 0.5)


def test_rims_of_a_box_stay() -> None:
    box = ops.box(cells=(6, 6, 6))
    made = snap_to_line(box, box.positions @ [1.0, 0.7, 0.3] - 0.1, 0.4)
    assert made.bounds == pytest.approx(box.bounds)
    assert volume(made) == pytest.approx(1)
