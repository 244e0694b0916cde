"""The point tree: nearest, counts and lists, against brute force."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import Geo, ops
from reticula.core.arrays import as_readonly
from reticula.core.errors import GeometryError, LimitError
from reticula.core.spatial import kdtree, points, points_of
from reticula.core.spatial.points import NearestPoints


@given(st.integers(1, 60), st.integers(0, 2**32 - 1), st.floats(0.0, 1.5), st.booleans())
def test_against_brute_force(count: int, seed: int, radius: float, on_lattice: bool) -> None:
    rng = np.random.default_rng(seed)
    places = rng.integers(0, 3, (count, 3)).astype(float) if on_lattice else rng.random((count, 3))
    asked = rng.integers(0, 3, (20, 3)).astype(float) if on_lattice else rng.random((20, 3))
    square = ((asked[:, None] - places) ** 2).sum(axis=2)
    tree = NearestPoints(places)
    index, distance = tree.nearest(asked)
    np.testing.assert_array_equal(index, square.argmin(axis=1))
    np.testing.assert_allclose(distance, np.sqrt(square.min(axis=1)))
    inside = square <= radius * radius
    np.testing.assert_array_equal(tree.count(asked, radius), inside.sum(axis=1))
    start, item, far = tree.near(asked, radius, 5)
    for row in range(20):
        order = np.lexsort((np.arange(count), square[row]))
        wanted = order[inside[row][order]][:5]
        assert item[start[row] : start[row + 1]].tolist() == wanted.tolist()
        np.testing.assert_allclose(far[start[row] : start[row + 1]], np.sqrt(square[row][wanted]))


def test_reach_is_included_and_nothing_beyond() -> None:
    tree = NearestPoints(np.zeros((1, 3)))
    index, distance = tree.nearest(np.array([[0, 0.5, 0], [0, 0.51, 0]]), 0.5)
    assert index.tolist() == [0, -1]
    assert distance.tolist() == [0.5, 0.0]
    assert tree.nearest(np.zeros((1, 3)), np.array([-1.0]))[0].tolist() == [-1]


def test_many_points_in_one_place() -> None:
    tree = NearestPoints(np.ones((5000, 3)))
    assert tree.nearest(np.zeros((1, 3)))[0][0] == 0
    assert tree.count(np.ones((1, 3)), 0.0)[0] == 5000
    assert tree.near(np.ones((1, 3)), 0.0, 3)[1].tolist() == [0, 1, 2]


def test_limits_are_said(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(points, "MOST_PAIRS", 10)
    with pytest.raises(LimitError, match="use a smaller radius"):
        points_of(ops.grid(cells=(4, 4))).near(np.zeros((1, 3)), 9.0)
    with pytest.raises(GeometryError, match="not empty"):
        points_of(Geo.empty())


def test_kernels_are_compiled_once_whatever_arrays_one_asks_with() -> None:
    points = NearestPoints(np.eye(3))
    asked = np.zeros((2, 3))
    points.near(asked, 2.0)
    compiled = [set(kernel.signatures) for kernel in (kdtree.count_near, kdtree.fill_near)]
    for rows in (asked, asked[:1], as_readonly(asked), np.asfortranarray(asked)):
        for radius in (2.0, np.full(len(rows), 2.0), as_readonly(np.full(len(rows), 2.0))):
            assert points.near(rows, radius)[0].tolist() == [0, 3, 6][: len(rows) + 1]
            assert points.count(rows, radius, 2).tolist() == [2, 2][: len(rows)]
    assert [set(kernel.signatures) for kernel in (kdtree.count_near, kdtree.fill_near)] == compiled
