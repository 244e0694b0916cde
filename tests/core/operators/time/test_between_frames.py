"""Blends of two geometries."""

from __future__ import annotations

import numpy as np
import pytest

from reticula.core import ops
from reticula.core.diagnostics import collecting
from reticula.core.errors import GeometryError


def test_places_and_values_of_the_same_names_are_blended() -> None:
    flat = ops.grid(cells=(2, 2)).with_attribute("point", "heat", np.arange(9.0))
    high = ops.transform(flat, move=(0, 2, 0)).with_attribute("point", "heat", np.full(9, 10.0))
    made = ops.between_frames(flat, high, amount=0.25)
    np.testing.assert_allclose(made.positions[:, 1], 0.5)
    np.testing.assert_allclose(made.attribute("point", "heat"), np.arange(9.0) * 0.75 + 2.5)
    assert made.topology is flat.topology


def test_the_amount_may_differ_from_point_to_point() -> None:
    flat = ops.grid(cells=(2, 2))
    made = ops.between_frames(
        flat, ops.transform(flat, move=(0, 2, 0)), amount="number(position.x > 0)", where="position.z > 0"
    )
    moved = made.positions[:, 1] > 0
    np.testing.assert_array_equal(moved, (flat.positions[:, 0] > 0) & (flat.positions[:, 2] > 0))


def test_elements_without_a_counterpart_stay_and_that_is_said() -> None:
    flat = ops.grid(cells=(2, 2))
    part = ops.remove(ops.transform(flat, move=(0, 2, 0)), where="position.x > 0.2")
    with collecting() as notes:
        made = ops.between_frames(flat, part, amount=1.0)
    stays = flat.positions[:, 0] > 0.2
    np.testing.assert_allclose(made.positions[:, 1], np.where(stays, 0.0, 2.0))
    assert any("no counterpart" in note.text for note in notes)


def test_shapes_that_have_nothing_in_common_are_matched_by_order() -> None:
    ball, block = ops.sphere(), ops.transform(ops.sphere(radius=2.0), move=(0, 1, 0))
    made = ops.between_frames(ball, block, match="order", amount=0.5)
    np.testing.assert_allclose(made.positions, (ball.positions + block.positions) / 2)
    with pytest.raises(GeometryError, match="match by name"):
        ops.between_frames(ball, ops.box(), match="order")


def test_flags_texts_and_values_of_another_type_stay() -> None:
    flat = ops.grid(cells=(1, 1)).with_attribute("point", "mark", [True, False, True, False])
    flat = flat.with_attribute("point", "heat", [1.0, 2.0, 3.0, 4.0])
    other = flat.with_attribute("point", "mark", [False] * 4).with_attribute("point", "heat", [1, 1, 1, 1])
    made = ops.between_frames(flat, other, amount=1.0)
    np.testing.assert_array_equal(made.attribute("point", "mark"), [True, False, True, False])
    np.testing.assert_array_equal(made.attribute("point", "heat"), [1.0, 2.0, 3.0, 4.0])


def test_faces_take_the_mean_of_their_points() -> None:
    flat = ops.grid(cells=(2, 1)).with_attribute("face", "heat", [0.0, 0.0])
    other = flat.with_attribute("face", "heat", [1.0, 1.0])
    made = ops.between_frames(flat, other, amount="number(position.x > 0.1)")
    np.testing.assert_allclose(np.sort(made.attribute("face", "heat")), [0.0, 0.5])
