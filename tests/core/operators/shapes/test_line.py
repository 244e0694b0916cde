"""Line: its points lie evenly between its ends."""

import numpy as np
import pytest

from reticula.core import ops
from reticula.core.errors import ParameterError


@pytest.mark.parametrize("segments", [1, 2, 7])
def test_points_are_even(segments: int) -> None:
    made = ops.line(begin=(1, 2, 3), end=(1, 5, 7), segments=segments)
    assert made.counts["points"] == segments + 1
    steps = np.diff(made.positions, axis=0)
    assert np.linalg.norm(steps, axis=1) == pytest.approx(np.full(segments, 5 / segments))
    assert made.positions[[0, -1]].tolist() == [[1, 2, 3], [1, 5, 7]]
    assert made.topology.curve_closed.tolist() == [False]


def test_a_line_without_segments_is_refused() -> None:
    with pytest.raises(ParameterError, match="segments"):
        ops.line(segments=0)
