"""Affine maps, and what turns with them."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.geometry import measure
from reticula.core.geometry.edit.affine import SPEED, affine_matrix, apply_affine, rotation_matrix
from tests.helpers import is_closed, volume


def test_a_turn_is_about_x_then_y_then_z() -> None:
    assert np.allclose(rotation_matrix([90, 0, 0]) @ [0, 1, 0], [0, 0, 1])
    assert np.allclose(rotation_matrix([90, 0, 90]) @ [0, 1, 0], [0, 0, 1])
    assert np.allclose(rotation_matrix([0, 90, 0]) @ rotation_matrix([0, -90, 0]), np.eye(3))


def test_scaling_is_about_the_place_given() -> None:
    matrix = affine_matrix([0, 0, 0], [0, 0, 0], [2, 2, 2], [1, 1, 1])
    assert (matrix @ [1, 1, 1, 1]).tolist() == [1, 1, 1, 1]


def test_a_mirrored_solid_still_faces_outwards(cube: Geo) -> None:
    mirrored = apply_affine(cube, affine_matrix([3, 0, 0], [0, 20, 0], [-1, 2, 1]))
    assert is_closed(mirrored)
    assert volume(mirrored) == pytest.approx(16)


def test_stored_normals_stay_square_to_the_surface(cube: Geo) -> None:
    stored = cube.with_attribute("face", "normal", measure.face_normals(cube))
    moved = apply_affine(stored, affine_matrix([1, 2, 3], [10, 20, 30], [1, 3, 0.5]))
    assert np.allclose(moved.attribute("face", "normal"), measure.face_normals(moved))


def test_some_points_move_and_the_others_stay(cube: Geo) -> None:
    some = cube.positions[:, 1] > 0
    moved = apply_affine(cube, affine_matrix([0, 5, 0], [0, 0, 0], [1, 1, 1]), some)
    assert np.array_equal(moved.positions[~some], cube.positions[~some])
    assert (moved.positions[some, 1] == 6).all()


def test_velocities_turn_but_do_not_move() -> None:
    geo = ops.grid(cells=(1, 1)).with_attribute("point", SPEED, np.tile([1.0, 0, 0], (4, 1)))
    moved = apply_affine(geo, affine_matrix([9, 9, 9], [0, 0, 90], [1, 1, 1]))
    assert np.allclose(moved.attribute("point", SPEED), [0, 1, 0])
