"""Frames along curves: square to the curve, and without twist."""

import numpy as np

from reticula.core import Geo, ops
from reticula.core.geometry.measure.curve_frames import curve_frames

UP = np.array([0.0, 1.0, 0.0])


def frames(geo: Geo) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    shape = geo.topology
    return curve_frames(geo.positions, shape.curve_start, shape.curve_point, shape.curve_closed, UP)


def test_normals_are_square_to_the_curve() -> None:
    turns = np.linspace(0, 12, 80)
    helix = ops.curve_through(places=np.stack([np.cos(turns), turns * 0.2, np.sin(turns)], axis=1).tolist())
    tangent, normal, _ = frames(helix)
    assert np.allclose(np.linalg.norm(tangent, axis=1), 1)
    assert np.allclose(np.linalg.norm(normal, axis=1), 1)
    assert np.abs(np.einsum("ij,ij->i", tangent, normal)).max() < 1e-9


def test_a_flat_circle_keeps_one_normal() -> None:
    _, normal, cosine = frames(ops.circle(segments=24))
    assert np.allclose(normal, UP)
    assert np.allclose(cosine, np.cos(np.pi / 24))


def test_the_last_frame_of_a_closed_curve_meets_the_first() -> None:
    turns = np.linspace(0, 2 * np.pi, 60, endpoint=False)
    knot = np.stack([np.cos(turns), 0.5 * np.sin(2 * turns), np.sin(turns) + 0.4 * np.cos(3 * turns)], axis=1)
    loop = ops.curve_through(places=knot.tolist(), closed=True)
    _, normal, _ = frames(loop)
    steps = np.einsum("ij,ij->i", normal, np.roll(normal, -1, axis=0))
    assert steps.min() > 0.9, "no frame jumps, not even the last to the first"


def test_a_straight_curve_upwards_has_some_normal() -> None:
    _, normal, _ = frames(ops.line(begin=(0, 0, 0), end=(0, 2, 0), segments=4))
    assert np.allclose(np.linalg.norm(normal, axis=1), 1)
