"""Smooth: move points towards the mean of their neighbours, again and again."""

import numpy as np

from reticula.core import ops
from reticula.core.diagnostics import Note
from reticula.core.geometry import measure
from tests.helpers import bumpy, volume


class TestSmooth:
    def test_volume_is_kept_better_than_by_plain_means(self) -> None:
        rough = bumpy(1, 8)
        kept = ops.smooth(rough, iterations=20)
        plain = ops.smooth(rough, iterations=20, keep="nothing")
        assert abs(volume(kept) / volume(rough) - 1) < 0.02
        assert volume(plain) / volume(rough) < 0.93
        assert measure.edge_lengths(kept).std() < measure.edge_lengths(rough).std()

    def test_pins_borders_and_other_points(self, notes: list[Note]) -> None:
        sheet = ops.grid(cells=(6, 6))
        rough = sheet.with_positions(sheet.positions + np.random.default_rng(2).normal(0, 0.03, (49, 3)))
        made = ops.smooth(rough, where="position.x < 0")
        still = rough.topology.border_points | (rough.positions[:, 0] >= 0)
        assert made.positions[still].tobytes() == rough.positions[still].tobytes()
        assert (made.positions[~still] != rough.positions[~still]).any()
