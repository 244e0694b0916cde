"""Remap: map values from a range to another one, or to colours. Vectors are mapped component by component."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import ParameterError


def remapped(geo: Geo, **parameters: object) -> np.ndarray:
    return ops.remap(geo, value="value", **parameters).attribute("point", "remapped")[:6]


def test_remap_worked_by_hand(row: Geo, notes: list[Note]) -> None:
    np.testing.assert_allclose(remapped(row), [0, 0.2, 0.4, 0.6, 0.8, 1.0])
    np.testing.assert_allclose(remapped(row, to_low=10, to_high=0), [10, 8, 6, 4, 2, 0])
    given = {"from_range": "given", "low": 1.0, "high": 3.0}
    np.testing.assert_allclose(remapped(row, **given), [0, 0, 0.5, 1, 1, 1])
    np.testing.assert_allclose(remapped(row, clamp=False, **given), [-0.5, 0, 0.5, 1, 1.5, 2])
    assert "Values are 0 to 5." in [note.text for note in notes]
    assert "8 points lie beyond 1 to 3 and are kept at its ends." in [note.text for note in notes]


def test_remap_by_curve_and_gradient(row: Geo) -> None:
    bent = remapped(row, through="response curve", curve=[[0, 0], [0.4, 1], [1, 1]])
    assert bent[2] == pytest.approx(1.0)
    stops = [[0, 0, 0, 0, 1], [0.5, 1, 0, 0, 1], [1, 1, 1, 1, 0]]
    colors = remapped(row, through="gradient", gradient=stops)
    np.testing.assert_allclose(colors[1], [0.4, 0, 0, 1], atol=1e-12)
    np.testing.assert_allclose(colors[5], [1, 1, 1, 0])


def test_signed_vectors_make_colours_without_black(row: Geo) -> None:
    ball = ops.sphere()
    shown = ops.remap(ball, value="normal", from_range="signed", name="color").find("point", "color")
    assert shown.type == "vec4"
    assert (shown.values[:, 3] == 1).all()
    assert shown.values[:, :3].max(axis=1).min() > 0.2
    down = np.argmin(ball.positions[:, 1])
    np.testing.assert_allclose(shown.values[down, :3], [0.5, 0, 0.5], atol=1e-9)


def test_remap_says_what_it_cannot(row: Geo, notes: list[Note]) -> None:
    with pytest.raises(ParameterError, match="low and high are the same"):
        remapped(row, from_range="given", low=1, high=1)
    with pytest.raises(ParameterError, match="needs one number"):
        ops.remap(row, value="normal", through="gradient")
    with pytest.raises(ParameterError, match="only numbers and vectors"):
        ops.remap(row, value="value > 1")
    assert (ops.remap(row, value="3.0").attribute("point", "remapped") == 0).all()
    assert "no range to map" in notes[-1].text
