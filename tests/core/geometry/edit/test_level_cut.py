"""Faces cut where a value changes its sign."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.geometry import measure
from reticula.core.geometry.edit.level_cut import cut_at_zero, triangulate_faces
from tests.helpers import bumpy, is_closed, volume


def test_a_cut_moves_nothing_and_leaves_no_crack() -> None:
    ball = bumpy(4)
    cut = cut_at_zero(ball, ball.positions[:, 1] - 0.13)
    assert is_closed(cut.geo)
    assert volume(cut.geo) == pytest.approx(volume(ball))
    assert np.array_equal(cut.geo.positions[: len(ball.positions)], ball.positions)
    assert np.abs(cut.geo.positions[len(ball.positions) :, 1] - 0.13).max() < 1e-12
    assert {*cut.side.tolist()} == {-1.0, 1.0}


def test_values_are_interpolated_along_the_edges() -> None:
    geo = ops.grid(cells=(5, 5))
    geo = geo.with_attribute("point", "x", geo.positions[:, 0])
    made = cut_at_zero(geo, geo.positions[:, 0] * 2 + geo.positions[:, 2] - 0.07).geo
    assert np.allclose(made.attribute("point", "x"), made.positions[:, 0])


def test_points_on_the_line_are_not_doubled() -> None:
    geo = ops.grid(cells=(2, 2))
    cut = cut_at_zero(geo, geo.positions[:, 0])
    assert cut.geo.counts["points"] == 9
    assert cut.on.sum() == 3


def test_a_concave_face_is_cut_whole() -> None:
    comb = Geo.from_faces(
        [[0, 0, 0], [5, 0, 0], [5, 2, 0], [4, 1, 0], [2, 2, 0], [1, 1, 0], [0, 2, 0]], [list(range(7))]
    )
    cut = cut_at_zero(comb, comb.positions[:, 1] - 1.5)
    assert measure.face_areas(cut.geo).sum() == pytest.approx(measure.face_areas(comb).sum())


def test_chosen_faces_become_triangles_where_they_stood() -> None:
    geo = ops.grid(cells=(3, 1))
    made = triangulate_faces(geo, np.array([False, True, False]))
    assert made.topology.face_size.tolist() == [4, 3, 3, 4]
