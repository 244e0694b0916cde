"""Circle: closed curve of equally spaced points on a circle around the origin."""

import numpy as np
import pytest

from reticula.core import ops
from reticula.core.geometry import measure


def test_lengths() -> None:
    assert measure.curve_lengths(ops.rectangle(size=(2, 3)))[0] == pytest.approx(10)
    assert measure.curve_lengths(ops.regular_polygon(sides=6, radius=2))[0] == pytest.approx(12)
    assert measure.curve_lengths(ops.arc(radius=1, segments=2000))[0] == pytest.approx(np.pi, rel=1e-6)
    assert measure.curve_lengths(ops.line(begin=(0, 0, 0), end=(0, 3, 4), segments=7))[0] == pytest.approx(5)
    assert ops.arc(to_middle=True).topology.curve_closed.tolist() == [True]
    assert ops.regular_polygon(sides=5, star=0.4).counts["points"] == 10
