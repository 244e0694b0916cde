"""Polygons laid over each other: cells, what covers them, and what is left when cells are put together."""

import numpy as np
import pytest

from reticula.core.geometry.planar.overlay import overlay_polygons, owned_rings

SQUARES = np.array([[0, 0], [2, 0], [2, 2], [0, 2], [1, 1], [3, 1], [3, 3], [1, 3]], float)
START, POINT = np.array([0, 4, 8]), np.arange(8)


def test_two_squares_make_three_cells() -> None:
    made = overlay_polygons(SQUARES, START, POINT)
    assert made.cells == 3
    assert sorted(np.bincount(made.covered[:, 0]).tolist()) == [1, 1, 2]
    assert (made.point == -1).sum() == 2, "where the outlines cross"
    assert sorted(made.point[made.point >= 0]) == list(range(8))


def test_every_side_runs_around_its_cell() -> None:
    made = overlay_polygons(SQUARES, START, POINT)
    a, b = made.place[made.tail], made.place[made.head]
    area = np.bincount(made.cell, 0.5 * (a[:, 0] * b[:, 1] - a[:, 1] * b[:, 0]))
    assert sorted(area) == pytest.approx([1, 3, 3])
    assert (np.bincount(made.tail) == np.bincount(made.head)).all()


@pytest.mark.parametrize(("owner", "sides"), [([0, 0, 0], 8), ([0, 1, 1], None)])
def test_cells_of_one_owner_have_no_side_between_them(owner: list[int], sides: int | None) -> None:
    made = overlay_polygons(SQUARES, START, POINT)
    tail, head, own = owned_rings(made, np.array(owner), np.zeros((0, 2), np.int64))
    pairs = set(zip(own, tail, head, strict=True))
    assert not any((o, h, t) in pairs for o, t, h in pairs)
    if sides is not None:
        assert len(tail) == sides


def test_a_straight_node_stays_only_where_it_is_a_corner() -> None:
    places = np.array([[0, 0], [1, 0], [2, 0], [2, 1], [0, 1]], float)
    made = overlay_polygons(places, np.array([0, 5]), np.arange(5))
    owner = np.zeros(1, np.int64)
    middle = int(np.flatnonzero(made.point == 1)[0])
    assert middle not in owned_rings(made, owner, np.zeros((0, 2), np.int64))[0]
    assert middle in owned_rings(made, owner, np.array([[0, middle]]))[0]


def test_ends_that_nearly_meet_do() -> None:
    near = SQUARES.copy()
    near[4] = [2 + 1e-11, 0]
    near[5:8] = [[4, 0], [4, 2], [2 - 1e-11, 2]]
    made = overlay_polygons(near, START, POINT)
    assert made.cells == 2
    assert made.covered.tolist() == [[0, 0], [1, 1]] or made.covered.tolist() == [[0, 1], [1, 0]]
