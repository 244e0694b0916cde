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
