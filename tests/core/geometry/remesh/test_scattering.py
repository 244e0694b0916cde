"""Random places on triangles and in boxes."""

import numpy as np
import pytest
from scipy import stats

from reticula.core.geometry.remesh import scattering
from reticula.core.geometry.remesh.scattering import sample_box, sample_triangles, thin_in_order


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


@pytest.mark.parametrize(("size", "flat"), [(1.0, False), (1.0, True), (1e6, False), (1e-6, False), (0.0, False)])
def test_thinned_places_are_those_that_going_through_all_keeps(size: float, flat: bool) -> None:
    """Also far from the origin, in a plane, where radii differ tenfold, and where all are one place."""
    rng = np.random.default_rng(3)
    place = rng.random((500, 3)) * size * ([1, 0, 1] if flat else [1, 1, 1]) + 5 * size
    radius = rng.uniform(0.01, 0.1, 500) * (size or 1.0)
    normal = rng.normal(size=(500, 3))
    kept: list[int] = []
    for i in range(500):
        near = np.linalg.norm(place[kept] - place[i], axis=1) < radius[i]
        if not (near & (normal[kept] @ normal[i] >= 0)).any():
            kept.append(i)
    assert np.flatnonzero(thin_in_order(place, radius, normal)).tolist() == kept
    assert 1 <= len(kept) < 500


def test_no_places_are_thinned_to_none() -> None:
    assert thin_in_order(np.zeros((0, 3)), np.zeros(0), np.zeros((0, 3))).tolist() == []


@pytest.mark.parametrize("empty", [0.0, 0.5, 0.99])
@pytest.mark.parametrize("count", [1, 2, 7, 1000])
def test_a_triangle_is_found_as_by_bisection(count: int, empty: float) -> None:
    rng = np.random.default_rng(count)
    size = rng.random(count) ** 9 * (rng.random(count) >= empty)
    size[rng.integers(count)] = 1.0
    total = np.cumsum(size)
    guide = scattering._guide(total)
    values = np.concatenate([rng.random(500) * total[-1], total, np.nextafter(total, 0), [0.0]])
    found = [scattering._first_beyond.__wrapped__(total, guide, value) for value in values]
    assert np.array_equal(found, np.minimum(np.searchsorted(total, values, side="right"), count - 1))
