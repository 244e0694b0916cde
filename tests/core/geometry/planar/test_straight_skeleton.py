"""Polygons that shrink past edge and split events."""

import numpy as np
import pytest

from reticula.core.geometry.planar.straight_skeleton import ShrunkFaces, shrink_faces

DUMBBELL = np.array(
    [[0, 0], [1, 0], [1, 0.4], [2, 0.4], [2, 0], [3, 0], [3, 1], [2, 1], [2, 0.6], [1, 0.6], [1, 1], [0, 1]], float
)


def shrunk(flat: np.ndarray, far: float) -> ShrunkFaces:
    at = np.c_[flat, np.full(len(flat), 3.0)]
    start = np.array([0, len(at)], np.int32)
    return shrink_faces(at, start, np.array([[0, 0, 1.0]]), np.zeros(1, np.int32), np.array([far]))


def areas(made: ShrunkFaces, flat: np.ndarray, start: np.ndarray, point: np.ndarray) -> np.ndarray:
    places = np.where((point >= 0)[:, None], made.place[np.maximum(point, 0), :2], flat[np.maximum(-1 - point, 0)])
    parts = np.split(places, start[1:-1])
    return np.array([0.5 * (p[:, 0] @ np.roll(p[:, 1], -1) - p[:, 1] @ np.roll(p[:, 0], -1)) for p in parts])


def test_a_narrow_middle_comes_apart() -> None:
    made = shrunk(DUMBBELL, 0.2)
    assert made.loop_face.tolist() == [0, 0]
    assert areas(made, DUMBBELL, made.loop_start, made.loop_point) == pytest.approx([0.36, 0.36])
    swept = areas(made, DUMBBELL, made.ring_start, made.ring_point)
    assert made.ring_corner.tolist() == list(range(12))
    assert swept.sum() == pytest.approx(2.2 - 0.72)
    assert swept.min() > 0
    assert np.allclose(made.place[:, 2], 3)


def test_the_last_part_is_held_just_before_it_ends() -> None:
    made = shrunk(DUMBBELL, 10.0)
    assert made.reached == pytest.approx([0.5], rel=2e-3)
    assert made.reached < 0.5
    assert len(made.loop_face) == 2


def test_the_skeleton_of_a_rectangle_is_its_roof() -> None:
    roof = shrunk(np.array([[0, 0], [4, 0], [4, 2], [0, 2]], float), 10.0)
    swept = areas(roof, np.array([[0, 0], [4, 0], [4, 2], [0, 2]], float), roof.ring_start, roof.ring_point)
    assert swept == pytest.approx([3, 1, 3, 1], abs=1e-2)


def test_what_cannot_be_followed_is_said() -> None:
    crossed = np.array([[0, 0], [2, 2], [2, 0], [0, 2]], float)
    assert shrunk(crossed, 0.1).reached.tolist() == [-1.0]
