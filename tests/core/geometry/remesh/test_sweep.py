"""Profiles moved along curves."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.geometry import measure
from reticula.core.geometry.remesh.sweep import sweep_profile
from tests.helpers import volume

SQUARE = np.array([[-0.5, -0.5], [0.5, -0.5], [0.5, 0.5], [-0.5, 0.5]])
UP = np.array([0.0, 1.0, 0.0])


def tube(curve: Geo, caps: bool = True) -> Geo:
    shape = curve.topology
    rest = np.ones(len(shape.curve_point)), np.zeros(len(shape.curve_point)), UP, caps
    where = curve.positions, shape.curve_start, shape.curve_point, shape.curve_closed
    made = sweep_profile(*where, SQUARE, True, *rest)
    start = np.concatenate([[0], np.cumsum(made.sizes)])
    faces = [made.point[a:b].tolist() for a, b in zip(start, start[1:], strict=False)]
    return Geo.from_faces(made.positions, faces)


def test_a_straight_tube_is_a_box() -> None:
    made = tube(ops.line(begin=(0, 0, 0), end=(3, 0, 0), segments=3))
    assert volume(made) == pytest.approx(3)
    assert not made.topology.border_edges.any()


def test_around_a_corner_it_keeps_its_thickness() -> None:
    bent = ops.curve_through(places=[[0, 0, 0], [2, 0, 0], [2, 0, 2]], between="straight")
    assert volume(tube(bent)) == pytest.approx(4, rel=1e-6)


def test_a_closed_curve_gives_a_ring_without_caps() -> None:
    made = tube(ops.circle(radius=3, segments=32))
    assert not made.topology.border_edges.any()
    assert made.counts["faces"] == 32 * 4
    assert measure.face_areas(made).min() > 0
