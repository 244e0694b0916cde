"""Rounded patches in place of points."""

import numpy as np

from reticula.core import ops
from reticula.core.geometry import measure
from tests.helpers import is_closed


def test_the_corner_of_a_rounded_box_lies_on_a_ball() -> None:
    box = ops.box(size=(2, 2, 2))
    made = ops.bevel(box, width=0.5, segments=8)
    assert is_closed(made)
    beyond = (np.abs(made.positions) > 0.5 + 1e-9).all(axis=1)
    far = np.linalg.norm(np.abs(made.positions[beyond]) - 0.5, axis=1)
    assert beyond.sum() > 8 * 20
    assert np.allclose(far, 0.5, atol=0.01)


def test_without_segments_a_corner_is_one_flat_polygon() -> None:
    made = ops.bevel(ops.box(size=(2, 2, 2)), width=0.3, segments=1)
    assert made.counts["faces"] == 26
    assert measure.face_planarity(made).max() < 1e-9
