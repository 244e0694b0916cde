"""Cubic curves that close."""

import numpy as np
import pytest

from reticula.core.diagnostics import Note
from reticula.core.errors import FormatError
from reticula.core.formats.usd.curves import STEPS, sampled

SQUARE = np.array([[1.0, 0, 0], [0, 1, 0], [-1, 0, 0], [0, -1, 0]])


def test_a_closed_spline_has_a_piece_for_each_point(notes: list[Note]) -> None:
    geo = sampled(SQUARE, np.array([4]), "catmullRom", True, "ring")
    assert geo.topology.curve_closed.tolist() == [True]
    assert geo.counts["points"] == 4 * STEPS
    for corner in SQUARE:
        assert np.linalg.norm(geo.positions - corner, axis=1).min() == pytest.approx(0, abs=1e-12)


def test_curves_with_too_few_points_are_left_out(notes: list[Note]) -> None:
    assert sampled(SQUARE[:3], np.array([3]), "bspline", False, "a").counts["curves"] == 0
    with pytest.raises(FormatError, match="basis 'hermite'"):
        sampled(SQUARE, np.array([4]), "hermite", False, "a")
