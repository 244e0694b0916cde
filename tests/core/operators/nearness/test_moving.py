"""Drape, proximity deform, push and displace."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import ParameterError


@pytest.fixture
def hill() -> Geo:
    return ops.set_attribute(
        ops.grid(size=(4, 4), cells=(8, 8)), name="position", value="position + vec3(0, 0.5 * position.x, 0)"
    )


def test_drape_along_a_direction(hill: Geo, notes: list[Note]) -> None:
    mat = ops.transform(ops.grid(cells=(4, 4)), move=(0, 3, 0))
    made = ops.drape(mat, hill)
    np.testing.assert_allclose(made.positions[:, 1], 0.5 * made.positions[:, 0], atol=1e-12)
    assert made.group("point", "draped").all()
    half = ops.drape(mat, hill, share=0.5)
    np.testing.assert_allclose(half.positions[:, 1], (3 + 0.5 * half.positions[:, 0]) / 2, atol=1e-12)


def test_drape_offset_is_measured_along_the_ground_s_normal(hill: Geo, notes: list[Note]) -> None:
    mat = ops.transform(ops.grid(cells=(2, 2)), move=(0, 3, 0))
    made = ops.drape(mat, hill, offset=0.2)
    normal = np.array([-0.5, 1, 0]) / np.sqrt(1.25)
    np.testing.assert_allclose(made.positions @ normal, 0.2, atol=1e-12)
    below = ops.drape(ops.transform(mat, move=(0, -6, 0)), hill, offset=0.2)
    np.testing.assert_allclose(below.positions @ normal, 0.2, atol=1e-12)


def test_drape_leaves_what_does_not_hit(hill: Geo, notes: list[Note]) -> None:
    mat = ops.transform(ops.grid(size=(8, 1), cells=(8, 1)), move=(0, 3, 0))
    made = ops.drape(mat, hill)
    out = np.abs(mat.positions[:, 0]) > 2.01
    assert (made.positions[out] == mat.positions[out]).all()
    assert (made.group("point", "draped") == ~out).all()
    assert any("did not find the ground and stayed" in note.text for note in notes)
    short = ops.drape(mat, hill, limit_reach=True, reach=0.1)
    assert (short.positions == mat.positions).all()
    assert any("No point found the ground" in note.text for note in notes)


def test_drape_to_the_nearest_place_and_against_normals(notes: list[Note]) -> None:
    ball, shell = ops.geodesic_sphere(radius=1, frequency=8), ops.geodesic_sphere(radius=1.5, frequency=4)
    for way in ("closest", "normals"):
        made = ops.drape(shell, ball, way=way)
        radius = np.linalg.norm(made.positions, axis=1)
        assert radius.max() <= 1.0 + 1e-9
        assert radius.min() > 0.97


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


def test_push_stops_at_a_wall(notes: list[Note]) -> None:
    sheet = ops.grid(cells=(2, 2))
    wall = ops.transform(ops.grid(size=(0.6, 0.6)), move=(0, 0.2, 0))
    free = ops.push(sheet, amount=0.5)
    np.testing.assert_allclose(free.positions[:, 1], 0.5)
    made = ops.push(sheet, wall, amount=0.5, gap=0.01)
    middle = (np.abs(sheet.positions[:, [0, 2]]) < 0.1).all(axis=1)
    np.testing.assert_allclose(made.positions[:, 1], np.where(middle, 0.19, 0.5))
    assert (made.group("point", "stopped") == middle).all()
    inwards = ops.push(sheet, amount="-0.1 if position.x > 0 else 0")
    assert inwards.positions[:, 1].min() == pytest.approx(-0.1)


def test_displace_by_number_and_vector(notes: list[Note]) -> None:
    sheet = ops.grid(cells=(2, 2))
    made = ops.displace(sheet, value="position.x", amount=2.0, middle=0.5)
    np.testing.assert_allclose(made.positions[:, 1], 2 * (sheet.positions[:, 0] - 0.5))
    aside = ops.displace(sheet, value="vec3(1, 0, 0)", amount=0.5, where="position.x > 0.1")
    np.testing.assert_allclose(aside.bounds[1, 0], 1.0)
    up = ops.displace(sheet, value=1, along="direction", direction=(0, 0, 3))
    np.testing.assert_allclose(up.positions[:, 2] - sheet.positions[:, 2], 0.05)
    with pytest.raises(ParameterError, match="a number or a vec3 can move points"):
        ops.displace(sheet, value="position.x > 0")
    felt = ops.displace(sheet, ops.transform(ops.grid(), move=(0, 2, 0)), value="source.closest(position).distance")
    np.testing.assert_allclose(felt.positions[:, 1], 0.1)
