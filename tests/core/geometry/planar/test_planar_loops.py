"""Segments put end to end where loops meet."""

import numpy as np
import pytest

from reticula.core.geometry.planar.planar_loops import planar_loops


def loops_of(places: np.ndarray, *rings: list[int]) -> list[list[int]]:
    tail = np.concatenate([np.array(ring) for ring in rings])
    head = np.concatenate([np.roll(ring, -1) for ring in rings])
    start, item, left = planar_loops(tail, head, places[np.stack([tail, head], axis=1)], len(places))
    assert left == 0
    return [tail[item[a:b]].tolist() for a, b in zip(start, start[1:], strict=False)]


def sets(loops: list[list[int]]) -> set[frozenset[int]]:
    return {frozenset(loop) for loop in loops}


@pytest.mark.parametrize("turn", np.linspace(0, 6, 7))
def test_triangles_that_meet_in_a_point_stay_apart(turn: float) -> None:
    angle = np.radians([0, 30, 90, 120, 180, 210]) + turn
    places = np.concatenate([[[0.0, 0]], np.stack([np.cos(angle), np.sin(angle)], axis=1)])
    assert sets(loops_of(places, [0, 1, 2], [0, 3, 4], [0, 5, 6])) == {
        frozenset({0, 1, 2}),
        frozenset({0, 3, 4}),
        frozenset({0, 5, 6}),
    }


def test_a_hole_that_touches_its_outline_in_one_point_is_a_loop() -> None:
    places = np.array([[0.0, 0], [4, 0], [4, 4], [0, 4], [2, 2], [1, 2]])
    assert sets(loops_of(places, [0, 1, 2, 3], [0, 5, 4])) == {frozenset({0, 1, 2, 3}), frozenset({0, 4, 5})}


def test_a_hole_that_touches_in_two_points_parts_the_region() -> None:
    places = np.array([[0.0, 0], [4, 0], [4, 4], [0, 4], [1, 3], [3, 1]])
    made = loops_of(places, [0, 1, 2, 3], [0, 4, 2, 5])
    assert sets(made) == {frozenset({0, 1, 2, 5}), frozenset({0, 2, 3, 4})}


def test_nothing_is_nothing() -> None:
    start, item, left = planar_loops(np.zeros(0, int), np.zeros(0, int), np.zeros((0, 2, 2)), 0)
    assert (len(start), len(item), left) == (1, 0, 0)
