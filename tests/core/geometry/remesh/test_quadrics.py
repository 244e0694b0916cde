"""Quadrics: squared distances to planes."""

import numpy as np

from reticula.core.geometry.remesh.quadrics import add_plane, best_position


def test_the_best_place_is_where_the_planes_meet() -> None:
    q, at = np.zeros((2, 10)), np.zeros(3)
    for axis, offset in ((0, 0.2), (1, -0.1), (2, 0.3)):
        normal = np.eye(3)[axis]
        add_plane(q, axis % 2, (*normal, -offset), 1.0)
    places = np.array([[0.0, 0, 0], [0.4, 0, 0.4]])
    error = best_position(q, places, 0, 1, np.zeros(2, bool), at)
    assert np.allclose(at, [0.2, -0.1, 0.3])
    assert error < 1e-12


def test_in_a_plane_the_place_stays_on_the_edge() -> None:
    q, at = np.zeros((2, 10)), np.zeros(3)
    add_plane(q, 0, (0.0, 1.0, 0.0, -2.0), 3.0)
    places = np.array([[0.0, 0, 0], [1.0, 0, 0]])
    error = best_position(q, places, 0, 1, np.zeros(2, bool), at)
    assert at.tolist() == [0.5, 0, 0]
    assert np.isclose(error, 3 * 4), "weight times squared distance"


def test_a_fixed_end_stays() -> None:
    q, at = np.zeros((2, 10)), np.zeros(3)
    add_plane(q, 1, (1.0, 0.0, 0.0, 0.0), 1.0)
    best_position(q, np.array([[0.0, 0, 0], [1.0, 1, 1]]), 0, 1, np.array([False, True]), at)
    assert at.tolist() == [1, 1, 1]
