"""Curves that keep their length or area when they are moved."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import Geo, ops
from reticula.core.geometry import measure
from reticula.core.geometry.remesh.curve_stretch import stretched_curves


def area(geo: Geo) -> float:
    places = geo.positions - geo.positions.mean(axis=0)
    return float(np.linalg.norm(0.5 * np.cross(places, np.roll(places, -1, axis=0)).sum(axis=0)))


@given(st.integers(0, 10_000))
def test_closed_curves_keep_length_or_area(seed: int) -> None:
    rng = np.random.default_rng(seed)
    ring = ops.circle(segments=12)
    moved = ring.positions * 0.5 + rng.normal(scale=0.05, size=(12, 3))
    none = np.zeros(12, bool)
    for keep, read in (("length", lambda geo: measure.curve_lengths(geo)[0]), ("area", area)):
        made, left = stretched_curves(ring, moved, none, keep)
        assert left == 0
        assert read(ring.with_positions(made)) == pytest.approx(read(ring))
        assert made.mean(axis=0) == pytest.approx(moved.mean(axis=0), abs=1e-9)


@given(st.integers(0, 10_000))
def test_open_curves_hang_between_their_ends(seed: int) -> None:
    rng = np.random.default_rng(seed)
    line = ops.line(segments=9)
    wavy = line.with_positions(line.positions + rng.normal(scale=0.2, size=(10, 3)))
    moved = wavy.positions.copy()
    moved[1:-1] = 0.4 * moved[1:-1] + 0.3 * (moved[:-2] + moved[2:])
    made, left = stretched_curves(wavy, moved, wavy.topology.curve_ends, "length")
    assert left == 0
    assert made[[0, -1]].tolist() == wavy.positions[[0, -1]].tolist()
    assert measure.curve_lengths(wavy.with_positions(made))[0] == pytest.approx(measure.curve_lengths(wavy)[0])


def test_what_cannot_be_stretched_is_counted_and_left() -> None:
    line = ops.line(segments=4)
    moved = line.positions + np.array([[0, 0, 0], [0, 1, 0], [0, 2, 0], [0, 1, 0], [0, 0, 0]])
    pinned = np.array([False, False, True, False, False])
    made, left = stretched_curves(line, moved, pinned, "length")
    assert (left, made.tolist()) == (1, moved.tolist())
    assert stretched_curves(line, moved, line.topology.curve_ends, "area")[1] == 1
    assert stretched_curves(line, line.positions, pinned, "length")[1] == 0, "what did not move is not lost"
