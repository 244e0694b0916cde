"""Ray hits: send a ray from each element and make a point at every place that it hits, nearest first."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note


def test_all_hits_are_listed(notes: list[Note]) -> None:
    ball = ops.geodesic_sphere(radius=1.0, frequency=6)
    dots = Geo.of([[0.1, 3, 0.2], [5, 3, 0]])
    made = ops.raycast(dots, ball, hits="all")
    assert made.attribute("point", "hit_count").tolist() == [2, 0]
    first, second = made.find("point", "hit_distances").row(0)
    assert first == pytest.approx(made.attribute("point", "hit_distance")[0])
    assert first < second
    points = ops.ray_hits(dots, ops.set_attribute(ball, name="y", value="position.y"), read="y")
    assert points.attribute("point", "sender").tolist() == [0, 0]
    assert points.attribute("point", "number").tolist() == [0, 1]
    np.testing.assert_allclose(points.attribute("point", "y"), points.positions[:, 1], atol=1e-12)
    both = ops.ray_hits(Geo.of([[0.1, 0.5, 0.2], [0.1, -0.7, 0.2]]), ball, ways="both")
    assert both.attribute("point", "sender").tolist() == [0, 0, 1, 1]
    assert both.attribute("point", "number").tolist() == [0, 1, 0, 1]
    far = both.attribute("point", "distance")
    assert far[0] < far[1]
    assert far[2] < far[3]
    assert both.positions[0, 1] > 0 > both.positions[2, 1]
