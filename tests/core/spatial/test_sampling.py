"""Places on another geometry, and the values that are read there."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.spatial.sampling import Sample, sample_closest, sample_hits, sample_points, sample_ray


@pytest.fixture
def slope() -> Geo:
    """A flat sheet whose point attribute `along` is its x, with a face attribute that says left or right."""
    sheet = ops.grid(size=(2, 2), cells=(2, 2))
    sheet = sheet.with_attribute("point", "along", sheet.positions[:, 0])
    return sheet.with_attribute("face", "side", np.array(["left", "right", "left", "right"]))


def test_values_are_interpolated_where_the_closest_place_is(slope: Geo) -> None:
    asked = np.array([[0.3, 1, 0.2], [-0.7, -2, 0.1]])
    found = sample_closest(slope, asked)
    assert found.distance == pytest.approx([1, 2])
    assert found.attribute("point", "along").values == pytest.approx([0.3, -0.7])
    assert found.attribute("face", "side").values.tolist() == ["right", "left"]
    assert np.allclose(found.normal, (0, 1, 0))


def test_out_of_reach_is_not_found_and_gets_the_default(slope: Geo) -> None:
    found = sample_closest(slope, np.array([[0.3, 1, 0], [0.3, 5, 0]]), reach=2)
    assert found.found.tolist() == [True, False]
    assert found.distance[1] == -1
    assert found.index[1] == -1
    assert found.attribute("point", "along").values == pytest.approx([0.3, 0])


def test_without_faces_curves_and_then_points_are_looked_at() -> None:
    line = ops.line(begin=(0, 0, 0), end=(2, 0, 0))
    assert sample_closest(line, np.array([[0.5, 1, 0]])).position[0] == pytest.approx([0.5, 0, 0])
    dots = Geo.of([[0, 0, 0], [2, 0, 0]])
    assert sample_closest(dots, np.array([[0.5, 1, 0]])).position[0] == pytest.approx([0, 0, 0])


def test_rays_both_ways_take_the_nearer_hit() -> None:
    ball = ops.box(size=(2, 2, 2))
    origin, way = np.array([[0, 0.5, 0]]), np.array([[0, 1.0, 0]])
    assert sample_ray(ball, origin, way).distance[0] == pytest.approx(0.5)
    assert sample_ray(ball, origin, -way).distance[0] == pytest.approx(1.5)
    assert sample_ray(ball, origin, -way, both=True).distance[0] == pytest.approx(0.5)
    start, hits = sample_hits(ball, origin, -way, both=True)
    assert start.tolist() == [0, 2]
    assert hits.distance == pytest.approx([0.5, 1.5])


def test_only_chosen_and_merged(slope: Geo) -> None:
    asked = np.array([[x, 1, 0.2] for x in (-0.8, -0.2, 0.4, 0.9)])
    found = sample_points(slope, asked)
    assert found.only(np.array([True, False, True, False])).found.tolist() == [True, False, True, False]
    assert found.chosen([2, 0]).index.tolist() == found.index[[2, 0]].tolist()
    merged = Sample.merged(5, [(np.array([4, 1]), found.chosen([0, 3]))])
    assert merged.found.tolist() == [False, True, False, False, True]
    assert merged.index[[4, 1]].tolist() == found.index[[0, 3]].tolist()
