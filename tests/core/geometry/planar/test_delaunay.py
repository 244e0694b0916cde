"""Triangulations of flat regions: area, empty circles, and points put in."""

import numpy as np
import pytest
from shapely.geometry import Point

from reticula.core.errors import GeometryError
from reticula.core.geometry.planar.delaunay import lattice_inside, polygon_of, triangulate_polygon

SQUARE = np.array([[0.0, 0], [4, 0], [4, 4], [0, 4]])
HOLE = np.array([[1.0, 1], [1, 3], [3, 3], [3, 1]])


def areas(places: np.ndarray, tri: np.ndarray) -> np.ndarray:
    a, b, c = (places[tri[:, k]] for k in range(3))
    return 0.5 * ((b - a)[:, 0] * (c - a)[:, 1] - (b - a)[:, 1] * (c - a)[:, 0])


def test_a_square_with_a_hole_is_covered() -> None:
    flat = np.concatenate([SQUARE, HOLE])
    tri = triangulate_polygon(flat, [np.arange(4), np.arange(4, 8)])
    found = areas(flat, tri)
    assert found.sum() == pytest.approx(12)
    assert (found > 0).all()


def test_no_corner_lies_within_the_circle_around_a_triangle() -> None:
    inner = np.random.default_rng(5).random((40, 2)) * 3.6 + 0.2
    places = np.concatenate([SQUARE, inner])
    tri = triangulate_polygon(SQUARE, [np.arange(4)], inner)
    assert areas(places, tri).sum() == pytest.approx(16)
    for a, b, c in places[tri]:
        (ax, ay), (bx, by) = b - a, c - a
        far_b, far_c, d = ax**2 + ay**2, bx**2 + by**2, 2 * (ax * by - ay * bx)
        center = a + np.array([by * far_b - ay * far_c, ax * far_c - bx * far_b]) / d
        assert np.linalg.norm(places - center, axis=1).min() > np.linalg.norm(a - center) - 1e-9


def test_a_lattice_lies_inside_and_away_from_the_border() -> None:
    inside = lattice_inside(polygon_of(SQUARE, [HOLE]), 0.5)
    assert len(inside) >= 15
    border = polygon_of(SQUARE, [HOLE]).boundary
    assert min(border.distance(Point(place)) for place in inside) > 0.29
    assert not ((inside > 1) & (inside < 3)).all(axis=1).any()


def test_an_outline_that_crosses_itself_is_refused() -> None:
    with pytest.raises(GeometryError, match="does not cross itself"):
        triangulate_polygon(SQUARE, [np.array([0, 2, 1, 3])])
