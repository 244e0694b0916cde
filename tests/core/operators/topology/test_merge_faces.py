"""Merge faces: by plane, by label, as marked; what stays apart."""

import numpy as np
import pytest

from reticula.core import ops
from reticula.core.diagnostics import Note, collecting
from reticula.core.errors import ParameterError
from reticula.core.geometry import measure
from tests.helpers import is_closed, volume


@pytest.mark.parametrize("far", [0.0, 1e5])
@pytest.mark.parametrize("turn", [(0, 0, 0), (20, 30, 40)])
def test_a_box_of_many_cells_is_a_box_of_six_faces(far: float, turn: tuple[float, ...], notes: list[Note]) -> None:
    fine = ops.transform(ops.box(size=(1, 2, 3), cells=(3, 4, 5)), turn=turn, move=(far, 0, 0))
    made = ops.merge_faces(fine, equal_values=False)
    assert made.counts == ops.box().counts
    assert volume(ops.transform(made, move=(-far, 0, 0))) == pytest.approx(6)
    assert notes[-1].text == "94 faces became 6."


def test_straight_points_stay_if_that_is_wanted() -> None:
    with collecting():
        made = ops.merge_faces(ops.grid(cells=(3, 3)), drop_straight=False)
    assert made.topology.face_size.tolist() == [12]
    assert made.counts["points"] == 12, "those inside are gone"


def test_other_values_keep_faces_apart(notes: list[Note]) -> None:
    sheet = ops.set_attribute(ops.grid(cells=(4, 4)), name="band", kind="face", value="index // 8")
    assert ops.merge_faces(sheet).counts["faces"] == 2
    assert ops.merge_faces(sheet, equal_values=False).counts["faces"] == 1


def test_by_label(notes: list[Note]) -> None:
    ball = ops.set_attribute(ops.geodesic_sphere(frequency=6), name="half", kind="face", value="position.y > 0")
    made = ops.merge_faces(ball, by="label", label="half", drop_straight=False)
    assert made.counts["faces"] == 2
    assert is_closed(made)
    with pytest.raises(ParameterError, match="label: 'area' is a number"):
        ops.merge_faces(ball, by="label", label="area")


def test_a_ring_around_a_hole_is_told_and_stays(notes: list[Note]) -> None:
    sheet = ops.grid(cells=(3, 3))
    made = ops.merge_faces(sheet, by="marked", where="index != 4")
    assert made.counts["faces"] == 9
    assert "1 groups of faces surround a hole or touch themselves" in notes[0].text


def test_an_angle_lets_nearly_flat_faces_merge(notes: list[Note]) -> None:
    can = ops.cylinder(segments=36, rings=2, caps=False)
    assert ops.merge_faces(can, angle=9, equal_values=False).counts["faces"] == 36
    tilted = ops.merge_faces(can, angle=11, equal_values=False, where="index < 4 or (index >= 36 and index < 40)")
    assert tilted.counts["faces"] == 72 - 8 + 1


def test_areas_stay() -> None:
    sheet = ops.set_attribute(
        ops.grid(cells=(8, 8)), name="patch", kind="face", value="integer(noise(position * 4) * 4)"
    )
    with collecting():
        made = ops.merge_faces(sheet, by="label", label="patch")
    assert measure.face_areas(made).sum() == pytest.approx(1)
    assert np.ptp(made.attribute("face", "patch")) == np.ptp(sheet.attribute("face", "patch"))
