"""Areas, normals, lengths: closed forms, and what does not change when a shape is moved."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.geometry import measure
from tests.helpers import bumpy


def test_a_box_has_the_areas_of_a_box() -> None:
    geo = ops.box(size=(1, 2, 3))
    assert sorted(measure.face_areas(geo).tolist()) == pytest.approx([2, 2, 3, 3, 6, 6])
    assert sorted(measure.edge_lengths(geo).tolist()) == pytest.approx([1] * 4 + [2] * 4 + [3] * 4)
    assert sorted(measure.face_perimeters(geo).tolist()) == pytest.approx([6, 6, 8, 8, 10, 10])


def test_area_vectors_of_a_closed_shape_cancel() -> None:
    assert np.abs(measure.area_vectors(bumpy(2)).sum(axis=0)).max() < 1e-12


@pytest.mark.parametrize("size", [1e-3, 1.0, 1e3])
def test_normals_do_not_depend_on_size_or_place(size: float) -> None:
    ball = bumpy(3)
    moved = ball.with_positions(ball.positions * size + size * 100)
    assert np.allclose(measure.face_normals(moved), measure.face_normals(ball), atol=1e-9)
    assert np.allclose(measure.point_normals(moved), measure.point_normals(ball), atol=1e-9)


def test_a_concave_polygon_has_its_own_area() -> None:
    arrow = Geo.from_faces([[0, 0, 0], [2, 0, 0], [0.5, 0.5, 0], [0, 2, 0]], [[0, 1, 2, 3]])
    assert measure.face_areas(arrow)[0] == pytest.approx(1.0)


def test_bent_faces_are_told_from_flat_ones() -> None:
    bent = Geo.from_faces([[0, 0, 0], [1, 0, 0], [1, 1, 0.3], [0, 1, 0]], [[0, 1, 2, 3]])
    assert measure.face_planarity(bent)[0] > 0.05
    assert measure.face_planarity(ops.box()).max() < 1e-12


def test_lengths_of_curves_count_the_segment_that_closes_them() -> None:
    assert measure.curve_lengths(ops.rectangle(size=(2, 3)))[0] == pytest.approx(10)
    assert measure.curve_lengths(ops.line(begin=(0, 0, 0), end=(0, 3, 4)))[0] == pytest.approx(5)
