"""The box around points and instances."""

import numpy as np

from reticula.core import Geo, ops


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
