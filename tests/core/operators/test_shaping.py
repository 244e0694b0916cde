"""Transform, join, remove, read file and project shape; and what holds for every operator."""

from pathlib import Path

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.context import using
from reticula.core.diagnostics import Note
from reticula.core.errors import GeometryError, ParameterError
from reticula.core.geometry import measure
from reticula.core.geometry.edit.affine import SPEED
from reticula.core.operators.shared.resources import DiskResources


def test_transform_scales_turns_and_moves_in_this_order() -> None:
    made = ops.transform(Geo.of([[1, 0, 0]]), scale=(2, 1, 1), turn=(0, 90, 0), move=(0, 5, 0))
    assert made.positions == pytest.approx(np.array([[0, 5, -2]]), abs=1e-12)
    pivoted = ops.transform(Geo.of([[2, 0, 0]]), turn=(0, 0, 180), around=(1, 0, 0))
    assert pivoted.positions == pytest.approx(np.zeros((1, 3)), abs=1e-12)


def test_stored_normals_rotations_and_velocities_turn_too() -> None:
    slope = Geo.from_faces([[0, 0, 0], [1, 1, 0], [0, 0, -1]], [[0, 1, 2]])
    slope = slope.with_attribute("point", "normal", measure.point_normals(slope))
    slope = slope.with_attribute("point", "rotation", np.tile([0, 0, 0, 1.0], (3, 1))).with_attribute(
        "point", SPEED, np.eye(3)
    )
    made = ops.transform(slope, scale=(1, 3, 1), turn=(0, 90, 0))
    assert made.attribute("point", "normal") == pytest.approx(measure.point_normals(made), abs=1e-12)
    assert made.attribute("point", "rotation")[0] == pytest.approx([0, np.sqrt(0.5), 0, np.sqrt(0.5)])
    assert made.attribute("point", SPEED)[0] == pytest.approx([0, 0, -1], abs=1e-12)


def test_mirroring_keeps_faces_outward(cube: Geo, notes: list[Note]) -> None:
    made = ops.transform(cube, scale=(-1, 1, 1))
    assert np.einsum("ij,ij->i", measure.face_normals(made), measure.face_centers(made)).min() > 0
    assert "mirrored" in notes[0].text
    with pytest.raises(ParameterError, match="would flatten the shape"):
        ops.transform(cube, scale=(1, 0, 1))


def test_join_keeps_all_and_says_what_was_filled(cube: Geo, mixed: Geo, notes: list[Note]) -> None:
    warm = mixed.with_attribute("point", "heat", np.ones(9))
    both = ops.join(cube, warm)
    assert both.counts["points"] == 17
    assert both.counts["curves"] == 2
    assert both.attribute("point", "heat").tolist() == [0] * 8 + [1] * 9
    assert notes[0].text == "8 points had no 'heat' (0) and hold these defaults."
    assert both.topology.curve_point.min() >= 8
    assert len(np.unique(ops.join(cube, cube, cube).identity("face"))) == 18


def test_join_of_clashing_types(cube: Geo, notes: list[Note]) -> None:
    numbers = cube.with_attribute("point", "a", np.ones(8))
    whole = cube.with_attribute("point", "a", np.ones(8, int))
    flags = cube.with_attribute("point", "a", np.ones(8, bool))
    assert ops.join(numbers, whole).find("point", "a").type == "number"
    assert not ops.join(numbers, flags).has("point", "a")
    assert "several types (flag, number)" in notes[-1].text


@pytest.mark.parametrize(
    ("kind", "where", "leftovers", "points", "faces"),
    [
        ("face", "index == 0", "remove", 8, 3),
        ("face", "index == 0", "keep", 9, 3),
        ("point", "index == 4", "remove", 0, 0),
        ("point", "index == 0", "remove", 8, 3),
        ("point", "index == 0", "keep", 8, 3),
        ("edge", "index == 0", "remove", 8, 3),
    ],
)
def test_remove(kind: str, where: str, leftovers: str, points: int, faces: int) -> None:
    made = ops.remove(ops.grid(cells=(2, 2)), kind=kind, where=where, leftovers=leftovers)
    assert (made.counts["points"], made.counts["faces"]) == (points, faces)


def test_remove_keeps_loose_points_and_curves(mixed: Geo) -> None:
    made = ops.remove(mixed, where="index == 1")
    assert made.counts == {"points": 7, "edges": 6, "corners": 7, "faces": 2, "curves": 2, "instances": 0}
    gone = ops.remove(mixed, kind="curve", where="closed")
    assert gone.topology.curve_closed.tolist() == [False]
    assert ops.remove(mixed, kind="point", where="index == 4").counts["curves"] == 1


def test_remove_says_when_nothing_or_all_is_marked(notes: list[Note]) -> None:
    sheet = ops.grid()
    assert ops.remove(sheet, where="area > 9") is sheet
    ops.remove(sheet, where="True")
    assert "so nothing was removed" in notes[0].text
    assert "so none is left" in notes[1].text


def test_read_file_turns_and_scales(tmp_path: Path, cube: Geo, notes: list[Note]) -> None:
    ops.transform(cube, move=(0, 0, 5)).write(tmp_path / "a.ply")
    with using(resources=DiskResources(folder=tmp_path)):
        made = ops.read_file(file="a.ply", up="z", scale=0.001)
        assert made.bounds[1] == pytest.approx([0.001, 0.006, 0.001])
        assert ops.project_shape(shape="a.ply").counts == cube.counts
    with using(resources=DiskResources({"reef": cube})):
        assert ops.project_shape(shape="reef") is cube
        with pytest.raises(GeometryError, match=r"no shape or file 'sand' \(given by name: reef\)"):
            ops.project_shape(shape="sand")
    with pytest.raises(ParameterError, match="choose a file"):
        ops.read_file()
