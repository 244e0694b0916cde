"""The box around points and instances."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.geometry.mesh.bounds import farthest_from_mean


def test_the_box_is_around_all_points() -> None:
    box = ops.transform(ops.box(size=(1, 2, 3)), move=(1, 0, 0))
    np.testing.assert_allclose(box.bounds, [[0.5, -1, -1.5], [1.5, 1, 1.5]])


def test_nothing_has_a_box_of_zeros() -> None:
    assert not Geo.empty().bounds.any()


def test_instances_count_where_they_stand() -> None:
    copies = ops.place_instances(ops.grid(size=(4, 4), cells=(1, 1)), ops.box(size=(1, 1, 1)))
    flat = ops.flatten_instances(copies)
    np.testing.assert_allclose(copies.bounds, flat.bounds, atol=1e-12)
    assert copies.bounds[1, 0] > 2


def test_boxes_and_distances_are_those_of_numpy_to_the_last_bit() -> None:
    for count in (1, 2, 1001):
        places = np.random.default_rng(count).normal(size=(count, 3)) * 1e3 + 1e6
        geo = Geo.of(places)
        assert np.array_equal(geo.bounds, [places.min(axis=0), places.max(axis=0)])
        off = places - geo.bounds.mean(axis=0)
        far = np.linalg.norm(off - off.mean(axis=0), axis=1).max()
        assert farthest_from_mean(geo.positions, geo.bounds.mean(axis=0)) == far


@pytest.mark.parametrize("at", [0, 3])
def test_a_place_that_is_none_is_not_passed_over(at: int) -> None:
    places = np.arange(15.0).reshape(5, 3)
    places[at, 1] = np.nan
    geo = Geo.of(places)
    assert np.isnan(geo.bounds[:, 1]).all()
    assert np.isfinite(geo.bounds[:, [0, 2]]).all()
    assert np.isnan(farthest_from_mean(geo.positions, np.zeros(3)))
