"""Curvature and angles: closed forms; Gauss-Bonnet is in the reference tests."""

import numpy as np
import pytest

from reticula.core import ops
from reticula.core.geometry import measure
from reticula.core.geometry.measure.curvature import edge_angles, gauss_curvatures, mean_curvatures, mixed_areas


@pytest.mark.parametrize("radius", [0.01, 1.0, 50.0])
def test_a_sphere_is_curved_alike_everywhere(radius: float) -> None:
    ball = ops.geodesic_sphere(radius=radius, frequency=16)
    assert np.allclose(gauss_curvatures(ball) * radius**2, 1, atol=0.05)
    assert np.allclose(mean_curvatures(ball) * radius, 1, atol=0.05)


def test_shares_of_the_surface_add_up_to_it() -> None:
    ball = ops.geodesic_sphere(frequency=4)
    assert mixed_areas(ball).sum() == pytest.approx(measure.face_areas(ball).sum())


def test_a_box_bends_by_a_right_angle_at_each_edge() -> None:
    assert np.allclose(edge_angles(ops.box()), 90)
    assert np.allclose(edge_angles(ops.reverse(ops.box())), -90)
    assert np.allclose(edge_angles(ops.grid(cells=(3, 3))), 0)
