"""Cut by value: clean outlines, groups, curves along the lines, and what is said where nothing is crossed."""

import numpy as np
import pytest

from reticula.core import ops
from reticula.core.diagnostics import Note
from reticula.core.geometry import measure
from tests.helpers import is_closed


def test_a_disc_is_cut_out_of_a_sheet(notes: list[Note]) -> None:
    sheet = ops.grid(size=(2, 2), cells=(80, 80))
    made, lines = ops.cut_by_value(sheet, value="length(position)", at=0.5)
    area = measure.face_areas(made)
    assert area.sum() == pytest.approx(4)
    assert area[made.group("face", "below")].sum() == pytest.approx(np.pi / 4, rel=2e-3)
    assert (made.group("face", "below") != made.group("face", "above")).all()
    assert lines.topology.curve_closed.tolist() == [True]
    assert measure.curve_lengths(lines)[0] == pytest.approx(np.pi, rel=2e-3)
    assert made.group("edge", "line").sum() == lines.counts["points"]


def test_several_values_make_bands_and_curves_that_know_their_value(notes: list[Note]) -> None:
    ball = ops.geodesic_sphere(radius=1, frequency=12)
    made, lines = ops.cut_by_value(ball, value="position.y", at=-0.6, count=4, spacing=0.4, band_name="zone")
    assert is_closed(made)
    assert sorted(set(made.attribute("face", "zone"))) == [0, 1, 2, 3, 4]
    assert lines.attribute("curve", "level") == pytest.approx([-0.6, -0.2, 0.2, 0.6])
    assert lines.topology.curve_closed.all()
    start = lines.topology.curve_start[:-1]
    assert lines.positions[lines.topology.curve_point[start], 1] == pytest.approx([-0.6, -0.2, 0.2, 0.6])
    zone = np.bincount(made.attribute("face", "zone"), measure.face_areas(made))
    assert zone[1:4] == pytest.approx([2 * np.pi * 0.4] * 3, rel=0.01), "a zone of a sphere has the area 2 pi r h"


@pytest.mark.parametrize("at", [-1.2, -0.6, 0.2])
def test_values_that_cross_nothing_stand_between_those_that_do(at: float, notes: list[Note]) -> None:
    two = ops.join(ops.geodesic_sphere(radius=0.3), ops.transform(ops.geodesic_sphere(radius=0.3), move=(0, 1.2, 0)))
    made, lines = ops.cut_by_value(two, value="position.y", at=at, count=6, spacing=0.3, band_name="zone")
    levels = at + 0.3 * np.arange(6)
    crossed = [level for level in levels if -0.299 < level < 0.299 or 0.901 < level < 1.499]
    assert lines.attribute("curve", "level") == pytest.approx(crossed)
    assert is_closed(made)


def test_values_are_interpolated_and_groups_copied(notes: list[Note]) -> None:
    sheet = ops.group(ops.grid(cells=(5, 5)), name="some", where="index < 10")
    sheet = ops.set_attribute(sheet, name="heat", value="3 * position.x - position.z")
    made, lines = ops.cut_by_value(sheet, value="position.x + 0.3 * position.z", at=0.07)
    assert made.attribute("point", "heat") == pytest.approx(made.positions @ [3, 0, -1])
    assert lines.attribute("point", "heat") == pytest.approx(lines.positions @ [3, 0, -1])
    assert measure.face_areas(made)[made.group("face", "some")].sum() == pytest.approx(0.4)


def test_along_points_that_are_there_nothing_is_cut(notes: list[Note]) -> None:
    made, lines = ops.cut_by_value(ops.grid(cells=(4, 4)), value="position.x", at=0.0)
    assert made.counts["faces"] == 16
    assert made.group("edge", "line").sum() == 4
    assert lines.counts["curves"] == 1


def test_nothing_crossed_is_said_with_the_range(notes: list[Note]) -> None:
    made, lines = ops.cut_by_value(ops.grid(), value="position.x", at=7)
    assert made.group("face", "below").all()
    assert lines.counts["points"] == 0
    assert "No face is crossed: the formula goes from -0.5 to 0.5" in notes[0].text


@pytest.mark.parametrize("far", [0.0, 1e5])
@pytest.mark.parametrize("scale", [1e-3, 1e3])
def test_where_and_how_large_changes_nothing(far: float, scale: float, notes: list[Note]) -> None:
    ball = ops.geodesic_sphere(frequency=6)
    ball = ops.set_attribute(ball, name="high", value="position.y")
    there = ops.transform(ball, scale=(scale,) * 3, move=(far, 0, far))
    here, _ = ops.cut_by_value(ball, value="high", at=0.123, snap=0.1)
    made, _ = ops.cut_by_value(there, value="high", at=0.123, snap=0.1)
    assert made.counts == here.counts
