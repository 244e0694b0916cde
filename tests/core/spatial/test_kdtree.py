"""The tree over points, against trying every pair."""

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from reticula.core.spatial.kdtree import build_point_tree, count_near, fill_near, nearest

IN_ORDER = np.arange(12, dtype=np.int32)


def distances(asked: np.ndarray, points: np.ndarray) -> np.ndarray:
    return np.linalg.norm(asked[:, None] - points[None], axis=2)


@given(st.integers(1, 200), st.integers(0, 10**6), st.floats(0.05, 1.0))
def test_counts_and_rows_are_those_of_all_pairs(count: int, seed: int, radius: float) -> None:
    rng = np.random.default_rng(seed)
    points, asked = rng.random((count, 3)), rng.random((12, 3))
    tree, far = build_point_tree(points), distances(asked, points)
    wanted = (far <= radius).sum(axis=1)
    found = count_near(tree, asked, np.full(12, radius), np.full(12, count), IN_ORDER[:12])
    assert (found == wanted).all()
    start = np.concatenate([[0], np.cumsum(found)])
    item, away = fill_near(tree, asked, np.full(12, radius), start, IN_ORDER[:12])
    for row in range(12):
        inside = slice(start[row], start[row + 1])
        assert set(item[inside]) == set(np.flatnonzero(far[row] <= radius))
        np.testing.assert_allclose(away[inside], np.sort(far[row][far[row] <= radius]), atol=1e-12)


def test_equally_near_points_give_the_first() -> None:
    points = np.zeros((40, 3))
    index, distance = nearest(build_point_tree(points), np.ones((1, 3)), np.array([9.0]), IN_ORDER[:1])
    assert index[0] == 0
    assert distance[0] == np.sqrt(3)


def test_a_row_without_room_holds_the_nearest() -> None:
    points = np.arange(30.0)[:, None] * [1, 0, 0]
    item, _ = fill_near(build_point_tree(points), np.zeros((1, 3)), np.array([99.0]), np.array([0, 4]), IN_ORDER[:1])
    assert item.tolist() == [0, 1, 2, 3]
