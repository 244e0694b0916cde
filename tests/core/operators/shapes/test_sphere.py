"""Sphere: sphere of quads, with triangles at both poles on the y axis."""

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import ops
from tests.helpers import outward


@given(st.integers(2, 12), st.integers(3, 12))
def test_sphere(rings: int, segments: int) -> None:
    ball = ops.sphere(radius=2, rings=rings, segments=segments)
    assert ball.counts["points"] == (rings - 1) * segments + 2
    assert ball.topology.euler_characteristic == 2
    assert np.allclose(np.linalg.norm(ball.positions, axis=1), 2)
    assert outward(ball).min() > 0
    uv = ball.attribute("corner", "uv")
    assert uv.min() >= 0
    assert uv.max() <= 1


@given(st.integers(1, 8))
def test_geodesic_sphere(frequency: int) -> None:
    ball = ops.geodesic_sphere(radius=1, frequency=frequency)
    assert ball.counts["faces"] == 20 * frequency**2
    assert ball.counts["points"] == 10 * frequency**2 + 2
    assert not ball.topology.border_edges.any()
    assert outward(ball).min() > 0
