"""Triangles of faces: they cover their face and face its way."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.geometry import measure, triangles
from reticula.core.geometry.measure.triangles import halves, largest_triangle_middles, longest_edges


@pytest.mark.parametrize("make", [ops.box, lambda: ops.disc(segments=12), lambda: ops.dual(ops.geodesic_sphere())])
def test_triangles_cover_their_faces(make) -> None:  # type: ignore[no-untyped-def]
    geo: Geo = make()
    cut = triangles(geo)
    at = geo.positions[geo.topology.corner_point[cut.corner]]
    area = 0.5 * np.cross(at[:, 1] - at[:, 0], at[:, 2] - at[:, 0])
    summed = np.zeros((geo.topology.face_count, 3))
    np.add.at(summed, cut.face, area)
    assert np.allclose(summed, measure.area_vectors(geo))
    assert (np.einsum("ij,ij->i", area, measure.face_normals(geo)[cut.face]) > 0).all()


def test_they_are_cut_once_and_kept() -> None:
    geo = ops.box()
    assert triangles(geo) is triangles(geo)


def test_the_middle_of_the_largest_triangle_lies_in_its_face() -> None:
    bent = Geo.from_faces([[0, 0, 0], [4, 0, 0], [4, 1, 0], [1, 1, 0], [1, 4, 0], [0, 4, 0]], [[0, 1, 2, 3, 4, 5]])
    x, y, _ = largest_triangle_middles(bent)[0]
    assert 0 < x < 4
    assert 0 < y < 4
    assert min(x, y) < 1, "in one of the arms, not in the notch"


def test_halves_share_the_area_and_the_place_of_the_cut() -> None:
    corner = np.random.default_rng(0).normal(size=(20, 3, 3))
    edge, length = longest_edges(corner)
    row = np.arange(20)
    sides = np.linalg.norm(corner - corner[:, [1, 2, 0]], axis=2)
    assert (length == sides.max(axis=1)).all()
    middle = 0.25 * corner[row, edge] + 0.75 * corner[row, (edge + 1) % 3]
    made = halves(corner, edge, middle)
    area = lambda at: np.linalg.norm(np.cross(at[:, 1] - at[:, 0], at[:, 2] - at[:, 0]), axis=1)  # noqa: E731
    np.testing.assert_allclose(area(made)[1::2], 0.25 * area(corner))
    np.testing.assert_allclose(area(made)[0::2], 0.75 * area(corner))
    assert (made[0::2, 1] == middle).all()
    assert (made[1::2, 0] == middle).all()
    number = halves(np.tile([0, 1, 2], (20, 1)), edge, np.full(20, 9))
    assert (np.sort(number[0::2], axis=1)[:, 2] == 9).all()
