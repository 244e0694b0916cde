"""The order in which questions are put to a tree changes no answer."""

import numpy as np
import pytest

from reticula.core import ops
from reticula.core.spatial import surface_of
from reticula.core.spatial.points import NearestPoints
from reticula.core.spatial.query_order import MANY, query_order


def test_questions_that_come_anyhow_are_sorted_in_space() -> None:
    places = np.random.default_rng(1).uniform(-3, 5, (MANY, 3))
    order = query_order(places).number
    assert np.array_equal(np.sort(order), np.arange(MANY))
    steps = np.linalg.norm(np.diff(places[order], axis=0), axis=1)
    assert np.median(steps) < 0.2 * np.median(np.linalg.norm(np.diff(places, axis=0), axis=1))


@pytest.mark.parametrize("value", [np.nan, np.inf, 1e300, 0.0])
def test_places_that_are_none_or_far_away_are_kept(value: float) -> None:
    places = np.random.default_rng(1).uniform(-1, 1, (MANY, 3))
    places[::7, 1] = value
    assert np.array_equal(np.sort(query_order(places).number), np.arange(MANY))


def test_few_and_those_in_order_stay_as_they_are() -> None:
    for places in (np.zeros((MANY, 3)), np.zeros((5, 3)), ops.grid(cells=(100, 100)).positions, np.zeros((0, 3))):
        assert np.array_equal(query_order(places).number, np.arange(len(places)))


def test_answers_do_not_hang_on_it() -> None:
    ball = ops.geodesic_sphere(frequency=12)
    rng = np.random.default_rng(2)
    asked, ways = rng.uniform(-1.5, 1.5, (2, MANY + 100, 3))
    surface, points = surface_of(ball), NearestPoints(ball.positions)
    shares = np.array_split(np.arange(len(asked)), 5)
    closest, hits = surface.closest(asked), surface.ray(asked, ways)
    number, far = points.nearest(asked)
    start, item, apart = points.near(asked, 0.4, 5)
    for rows in shares:
        one, other = surface.closest(asked[rows]), surface.ray(asked[rows], ways[rows])
        for whole, part in ((closest, one), (hits, other)):
            assert all(np.array_equal(a[rows], b) for a, b in zip(whole, part, strict=True))
        assert np.array_equal(points.nearest(asked[rows])[0], number[rows])
        assert np.array_equal(points.nearest(asked[rows])[1], far[rows])
        begin, end = start[rows[0]], start[rows[-1] + 1]
        near = points.near(asked[rows], 0.4, 5)
        assert np.array_equal(near[1], item[begin:end])
        assert np.array_equal(near[2], apart[begin:end])
        assert np.array_equal(points.count(asked[rows], 0.4), points.count(asked, 0.4)[rows])
