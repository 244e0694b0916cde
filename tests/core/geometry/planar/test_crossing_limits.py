"""When faces with moving corners cross themselves: edges vanish, corners meet edges, triangles turn over."""

import numpy as np
import pytest

from reticula.core.geometry.planar.crossing_limits import crossing_limits, plane_axes

UP = np.array([[0.0, 0.0, 1.0]])


def limit(at: list[list[float]], moves: list[list[float]], normal: np.ndarray = UP) -> float:
    start = np.array([0, len(at)], np.int32)
    return float(crossing_limits(np.array(at, float), np.array(moves, float), start, normal, np.array([True]))[0])


SQUARE = [[0, 0, 0], [2, 0, 0], [2, 2, 0], [0, 2, 0]]
INWARDS = [[1, 1, 0], [-1, 1, 0], [-1, -1, 0], [1, -1, 0]]


def test_an_edge_vanishes() -> None:
    assert limit(SQUARE, INWARDS) == pytest.approx(1)
    assert limit(SQUARE, (-np.array(INWARDS)).tolist()) == np.inf


def test_a_hollow_corner_meets_the_far_edge() -> None:
    arrow = [[0, 0, 0], [4, 0, 0], [4, 4, 0], [2, 1, 0], [0, 4, 0]]
    still = [[0, 0, 0]] * 5
    assert limit(arrow, [*still[:3], [0, -0.5, 0], still[4]]) == pytest.approx(2)
    assert limit(arrow, [*still[:3], [0, 0.5, 0], still[4]]) == np.inf


def test_sides_meet_from_outside() -> None:
    tongs = [[0, 0, 0], [3, 0, 0], [3, 2, 0], [2, 2, 0], [2, 1, 0], [1, 1, 0], [1, 2, 0], [0, 2, 0]]
    moves = np.zeros((8, 3))
    moves[3, 0] = -0.25
    assert limit(tongs, moves.tolist()) == pytest.approx(4)


def test_a_triangle_turns_over() -> None:
    triangle = [[0, 0, 0], [1, 0, 0], [0.4, 0.5, 0]]
    assert limit(triangle, [[0, 0, 0], [0, 0, 0], [0, -1, 0]]) == pytest.approx(0.5)


def test_corners_that_touch_at_first_may_part() -> None:
    bridged = [
        [0, 0, 0],
        [4, 0, 0],
        [4, 4, 0],
        [0, 4, 0],
        [0, 0, 0],
        [1, 1, 0],
        [1, 2, 0],
        [2, 2, 0],
        [2, 1, 0],
        [1, 1, 0],
    ]
    moves = np.zeros((10, 3))
    moves[[0, 9]] = [0.1, -0.1, 0]
    moves[[4, 5]] = [-0.1, 0.1, 0]
    assert limit(bridged, moves.tolist()) > 1


def test_seen_along_the_normal_only() -> None:
    turned = [[0, 0, 0], [0, 2, 0], [0, 2, 2], [0, 0, 2]]
    moves = [[5, 1, 1], [-5, -1, 1], [5, -1, -1], [0, 1, -1]]
    assert limit(turned, moves, np.array([[1.0, 0, 0]])) == pytest.approx(1)


def test_axes_span_the_plane() -> None:
    rng = np.random.default_rng(1)
    for normal in rng.normal(size=(20, 3)):
        normal /= np.linalg.norm(normal)
        x, y = plane_axes(normal)
        assert np.allclose(np.cross(x, y), normal)
