"""Proximity deform: move points by how near they are to points, curves or a mesh."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note


def test_pull_push_and_bulge(notes: list[Note]) -> None:
    dot = Geo.of([[0, 0, 0]])
    ring = Geo.of([[0.5, 0, 0], [1.5, 0, 0], [3, 0, 0]])
    linear = {"radius": 2.0, "falloff": [[0, 1], [1, 0]]}
    pull = ops.proximity_deform(ring, dot, effect="pull", **linear)
    np.testing.assert_allclose(pull.positions[:, 0], [0.5 - 0.5 * 0.75, 1.5 - 1.5 * 0.25, 3], atol=1e-12)
    push = ops.proximity_deform(ring, dot, effect="push", **linear)
    np.testing.assert_allclose(push.positions[:, 0], [0.5 + 1.5 * 0.75, 1.5 + 0.5 * 0.25, 3], atol=1e-12)
    np.testing.assert_allclose(push.attribute("point", "near"), [0.75, 0.25, 0], atol=1e-12)
    sheet = ops.grid(cells=(2, 2))
    bulge = ops.proximity_deform(sheet, dot, radius=0.4, amount=0.3)
    assert bulge.positions[:, 1].max() == pytest.approx(0.3)
    assert (bulge.positions[:, 1] > 0).sum() == 1
    ops.proximity_deform(ring, dot, radius=0.01)
    assert any("Nothing lies within 0.01 m" in note.text for note in notes)


def test_strength_by_number_of_neighbours(notes: list[Note]) -> None:
    crowd = Geo.of([[0, 0, 0], [0.1, 0, 0], [0, 0.1, 0], [5, 0, 0]])
    dots = Geo.of([[0, 0, 0.1], [5, 0, 0.1], [9, 9, 9]])
    made = ops.proximity_deform(dots, crowd, feel="count", radius=0.5, most=3, falloff=[[0, 1], [1, 0]])
    np.testing.assert_allclose(made.attribute("point", "near"), [1, 1 / 3, 0], atol=1e-12)


def test_faces_and_pieces_move_as_wholes(notes: list[Note]) -> None:
    sheet = ops.unshare(ops.grid(cells=(3, 1)))
    dot = Geo.of([[1 / 3, 0, 0]])
    made = ops.proximity_deform(sheet, dot, radius=0.2, move="faces", amount=0.5)
    heights = made.positions[made.topology.corner_point, 1].reshape(3, 4)
    np.testing.assert_allclose(heights, [[0] * 4, [0] * 4, [0.5] * 4], atol=1e-12)
    assert not any("bent instead" in note.text for note in notes)
    ops.proximity_deform(ops.grid(cells=(3, 1)), dot, radius=0.2, move="faces")
    assert any("bent instead of moved as wholes; put unshare before" in note.text for note in notes)
    two = ops.join(ops.box(), ops.transform(ops.box(), move=(3, 0, 0)))
    away = ops.proximity_deform(two, Geo.of([[0, 0.5, 0.2]]), radius=1.0, move="pieces", effect="push")
    assert (away.positions[8:] == two.positions[8:]).all()
    shift = away.positions[:8] - two.positions[:8]
    assert np.abs(shift).max() > 0.01
    np.testing.assert_allclose(shift, shift[:1].repeat(8, axis=0), atol=1e-12)
