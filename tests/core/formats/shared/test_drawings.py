"""Lines of drawings: bows become lines within the error that was asked for."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core.errors import FormatError
from reticula.core.formats.shared.drawings import Stroke, arc_steps, bezier, bezier_steps, drawing


@given(seed=st.integers(0, 10**6), degree=st.integers(2, 3), error=st.sampled_from([0.1, 0.01, 0.001]))
def test_a_bezier_in_steps_keeps_within_the_error(seed: int, degree: int, error: float) -> None:
    control = np.random.default_rng(seed).random((degree + 1, 2)) * 10
    line = bezier(control, bezier_steps(control, error))
    fine = bezier(control, 2000)
    begin, along = line[:-1], np.diff(line, axis=0)
    length = (along**2).sum(axis=1)
    share = np.clip(np.einsum("pd,sd->ps", fine, along) - (begin * along).sum(axis=1), 0, length) / np.maximum(
        length, 1e-300
    )
    nearest = begin + share[:, :, None] * along
    assert np.linalg.norm(fine[:, None] - nearest, axis=2).min(axis=1).max() <= error * (1 + 1e-9)


@given(radius=st.floats(0.01, 1000), angle=st.floats(-6.28, 6.28), error=st.floats(1e-4, 1))
def test_an_arc_in_steps_keeps_within_the_error(radius: float, angle: float, error: float) -> None:
    steps = arc_steps(radius, angle, error)
    assert steps >= 1
    if steps < 10_000 and radius > error:
        assert radius * (1 - np.cos(abs(angle) / steps / 2)) <= error * (1 + 1e-6)


def test_a_stroke_that_ends_where_it_began_is_closed() -> None:
    square = np.array([[0, 0, 0], [1, 0, 0], [1, 0, 1], [1, 0, 1], [0, 0, 0]], float)
    geo = drawing([Stroke(square, layer="Cut"), Stroke(square[:2], width=0.5)])
    assert geo.topology.curve_closed.tolist() == [True, False]
    assert geo.counts["points"] == 5
    assert geo.attribute("curve", "layer").tolist() == ["Cut", ""]
    assert geo.attribute("curve", "width").tolist() == [0, 0.5]


def test_loose_points_stand_beside_and_nothing_is_refused() -> None:
    assert drawing([], np.array([[1.0, 2, 3]])).counts["points"] == 1
    with pytest.raises(FormatError, match="no line"):
        drawing([Stroke(np.zeros((3, 3)))])
