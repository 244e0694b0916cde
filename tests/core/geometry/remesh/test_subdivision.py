"""Smoothing rules of subdivision, as weights."""

import numpy as np
import pytest

from reticula.core import ops
from reticula.core.geometry.remesh.subdivision import CatmullClark, Flat, Loop, creases


def test_one_level_of_a_cube_by_hand() -> None:
    cube = ops.box(size=(2, 2, 2))
    shape = cube.topology
    rules = creases(shape, np.zeros(12), np.zeros(8))
    made = CatmullClark(shape, rules).apply(cube.positions)
    assert np.allclose(np.abs(made[:8]), 5 / 9), "Catmull & Clark 1978, a corner where three faces meet"
    assert np.allclose(np.sort(np.abs(made[8:20]), axis=1), [0, 0.75, 0.75])
    assert np.allclose(np.sort(np.abs(made[20:]), axis=1), [0, 0, 1])


@pytest.mark.parametrize("rule", [CatmullClark, Loop])
def test_every_rule_keeps_a_constant_and_a_plane_inside(rule) -> None:  # type: ignore[no-untyped-def]
    sheet = ops.triangulate(ops.grid(cells=(6, 6)))
    shape = sheet.topology
    made = rule(shape, creases(shape, np.zeros(shape.edge_count), np.zeros(shape.point_count)))
    assert np.allclose(made.apply(np.ones(shape.point_count)), 1)
    assert np.allclose(made.apply(sheet.positions)[:, 1], 0)


def test_infinitely_sharp_is_not_smoothed() -> None:
    cube = ops.box()
    shape = cube.topology
    sharp = CatmullClark(shape, creases(shape, np.ones(12), np.ones(8))).apply(cube.positions)
    assert np.allclose(sharp, Flat(shape, True).apply(cube.positions))
