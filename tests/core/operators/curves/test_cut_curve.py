"""Cut curve: cut curves at marked points. A closed curve opens at its first marked point; one without stays closed."""

import numpy as np
import pytest

from reticula.core import ops
from reticula.core.diagnostics import Note
from reticula.core.geometry import measure
from tests.core.operators.curves.support import zigzag


class TestCutCurve:
    def test_open_and_closed(self) -> None:
        made = ops.cut_curve(ops.circle(segments=12), where="index % 4 == 1")
        assert np.diff(made.topology.curve_start).tolist() == [5, 5, 5]
        assert not made.topology.curve_closed.any()
        assert measure.curve_lengths(made).sum() == pytest.approx(measure.curve_lengths(ops.circle(segments=12))[0])
        parts = ops.cut_curve(zigzag(), where="index == 3", part=True)
        assert parts.counts == {**zigzag().counts, "points": 8, "curves": 2}

    def test_nothing_marked(self, notes: list[Note]) -> None:
        ring = ops.circle()
        assert ops.cut_curve(ring, where="False") is ring
        assert "nothing was cut" in notes[0].text
