"""Drape: lay points onto a mesh along a direction, along their normals or to the nearest place; the others stay."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note


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
