"""Resample: space points evenly along curves."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import Geo, ops
from reticula.core.geometry import measure
from tests.core.operators.curves.support import zigzag


class TestResample:
    def test_count_and_even_spacing(self) -> None:
        made = ops.resample(zigzag(), count=10)
        assert made.counts["points"] == 11
        assert made.positions[[0, -1]] == pytest.approx(zigzag().positions[[0, -1]])
        closed = ops.resample(ops.circle(segments=200), count=16)
        assert measure.curve_lengths(closed)[0] == pytest.approx(2 * 16 * 0.5 * np.sin(np.pi / 16), rel=1e-3)

    @given(st.floats(0.05, 2.0))
    def test_length_is_the_longest_part(self, length: float) -> None:
        made = ops.resample(ops.rectangle(size=(1, 2)), by="length", length=length, keep_corners=30)
        ends = made.positions[made.topology.curve_segments[0]]
        assert np.linalg.norm(ends[:, 1] - ends[:, 0], axis=1).max() <= length + 1e-9
        for corner in ops.rectangle(size=(1, 2)).positions:
            assert (made.positions == corner).all(axis=1).any(), "corners stay to the bit"

    def test_points_know_their_side(self) -> None:
        made = ops.resample(ops.rectangle(), count=12, keep_corners=30)
        assert made.attribute("point", "side").tolist() == [0] * 3 + [1] * 3 + [2] * 3 + [3] * 3

    def test_values_are_interpolated_and_faces_stay(self, mixed: Geo) -> None:
        warm = mixed.with_attribute("point", "heat", mixed.positions[:, 0] * 2)
        made = ops.resample(warm, where="not closed", count=5)
        new = made.positions[made.topology.curve_point[:6]]
        assert made.attribute("point", "heat")[made.topology.curve_point[:6]] == pytest.approx(new[:, 0] * 2)
        assert made.counts["faces"] == 3
        assert np.array_equal(made.positions[made.topology.corner_point], mixed.positions[mixed.topology.corner_point])
