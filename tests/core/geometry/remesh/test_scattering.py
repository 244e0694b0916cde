"""Random places on triangles and in boxes."""

import numpy as np
from scipy import stats

from reticula.core.geometry.remesh.scattering import sample_box, sample_triangles


def test_places_fall_as_the_areas_say() -> None:
    areas = np.array([1.0, 2.0, 5.0])
    triangle, weight = sample_triangles(np.cumsum(areas), np.ones((3, 3)), 8000, 4)
    assert np.allclose(weight.sum(axis=1), 1)
    assert (weight >= 0).all()
    assert stats.chisquare(np.bincount(triangle, minlength=3), areas * 1000).pvalue > 1e-4


def test_the_first_ones_stay_when_more_are_asked_for() -> None:
    total = np.array([1.0])
    few, many = (sample_triangles(total, np.ones((1, 3)), count, 9)[1] for count in (10, 500))
    assert np.array_equal(few, many[:10])
    box = np.zeros(3), np.ones(3)
    assert np.array_equal(sample_box(*box, 0, 20, 3)[10:], sample_box(*box, 10, 10, 3))


def test_places_in_a_box_fill_it() -> None:
    made = sample_box(np.array([-1.0, 0, 2]), np.array([1.0, 1, 5]), 0, 4000, 1)
    assert np.allclose(made.mean(axis=0), [0, 0.5, 3.5], atol=0.1)
    assert (made >= [-1, 0, 2]).all()
    assert (made <= [1, 1, 5]).all()
