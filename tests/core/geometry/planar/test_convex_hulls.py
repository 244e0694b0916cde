"""Convex hulls against SciPy's."""

import numpy as np
import pytest
from scipy.spatial import ConvexHull

from reticula.core.geometry.planar.convex_hulls import hulls


@pytest.mark.parametrize("seed", range(8))
def test_hulls_have_the_volume_that_scipy_finds(seed: int) -> None:
    rng = np.random.default_rng(seed)
    sets = [rng.normal(size=(int(rng.integers(4, 20)), 3)) for _ in range(5)]
    places = np.concatenate(sets)
    start = np.concatenate([[0], np.cumsum([len(one) for one in sets])]).astype(np.int32)
    made = hulls(places, start)
    tri, owner = made[0], made[1]
    for number, one in enumerate(sets):
        at = places[tri[owner == number]]
        volume = np.einsum("ij,ij->", at[:, 0], np.cross(at[:, 1], at[:, 2])) / 6
        assert volume == pytest.approx(ConvexHull(one).volume)


def test_large_sets_among_small_ones_and_flat_ones() -> None:
    rng = np.random.default_rng(1)
    ball = rng.normal(size=(900, 3))
    ball /= np.linalg.norm(ball, axis=1, keepdims=True)
    flat = rng.normal(size=(400, 3)) * [1, 1, 0]
    sets = [rng.normal(size=(9, 3)), ball, flat, rng.normal(size=(12, 3))]
    start = np.concatenate([[0], np.cumsum([len(one) for one in sets])]).astype(np.int32)
    tri, owner = hulls(np.concatenate(sets), start)
    assert (np.diff(owner) >= 0).all()
    assert np.bincount(owner, minlength=4)[1:3].tolist() == [2 * 900 - 4, 0]
    at = np.concatenate(sets)[tri[owner == 1]]
    assert (np.einsum("ij,ij->i", at.mean(axis=1), np.cross(at[:, 1] - at[:, 0], at[:, 2] - at[:, 0])) > 0).all()
