"""Transform: order of its steps, values that turn along, mirroring."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import ParameterError
from reticula.core.geometry import measure
from reticula.core.geometry.edit.affine import SPEED


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
