"""Operators drawn at random on the same shape moved by up to a million of its sizes, turned, scaled and reordered."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.invariance.motions import (
    ANY_ORDER,
    BY_AXES,
    BY_NUMBER,
    BY_PLACE,
    NAMES,
    SHAPES,
    Motion,
    differs,
    run,
    shuffled,
)

FREE = [name for name in NAMES if name not in BY_PLACE]
LEVEL = [name for name in FREE if name not in BY_AXES]
away = st.floats(-1e6, 1e6)


@pytest.mark.parametrize("kind", SHAPES)
@settings(derandomize=True)
@given(
    name=st.sampled_from(FREE),
    exponent=st.floats(-3, 3),
    move=st.tuples(away, away, away),
    turn=st.floats(-3.2, 3.2),
)
def test_anywhere_at_any_size(kind: str, name: str, exponent: float, move: tuple[float, ...], turn: float) -> None:
    scale = 10.0**exponent
    x, y, z = (scale * part for part in move)
    motion = Motion(scale, (x, y, z), turn if name in LEVEL else 0.0, 2e-6)
    shape = SHAPES[kind]()
    assert not differs(run(name, shape), run(name, shape, motion), motion, name not in ANY_ORDER)


@pytest.mark.parametrize("kind", SHAPES)
@settings(derandomize=True)
@given(name=st.sampled_from([name for name in NAMES if name not in BY_NUMBER]), seed=st.integers(0, 10_000))
def test_in_any_order(kind: str, name: str, seed: int) -> None:
    shape, still = SHAPES[kind](), Motion(1.0, (0, 0, 0), 0.0, 1e-6)
    assert not differs(run(name, shape), run(name, shuffled(shape, seed)), still, in_order=False)
