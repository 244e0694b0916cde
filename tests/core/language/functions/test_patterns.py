"""Noise, cells and random numbers: ranges, continuity, and what they hang on."""

import numpy as np
import pytest

from reticula.core import ops
from reticula.core.language import evaluate

GEO = ops.transform(ops.grid(size=(7, 7), cells=(60, 60)), move=(0, 0.37, 0))


def found(text: str) -> np.ndarray:
    return evaluate(text, GEO, "point").array


@pytest.mark.parametrize("text", ["noise(position)", "noise(position, 4)", "noise3(position).y", "noise(position.xz)"])
def test_noise_lies_around_zero(text: str) -> None:
    values = found(text)
    assert -1.2 < values.min() < -0.2
    assert 0.2 < values.max() < 1.2
    assert abs(values.mean()) < 0.1


def test_noise_has_no_steps() -> None:
    apart = np.abs(found("noise(position) - noise(position + vec3(0.001))"))
    assert apart.max() < 0.01


def test_components_of_noise3_differ() -> None:
    values = found("noise3(position)")
    assert abs(np.corrcoef(values.T)[np.triu_indices(3, 1)]).max() < 0.3


def test_cells_are_distances_to_places_that_share_a_number() -> None:
    distance, number = found("cells(position)"), found("cell_number(position)")
    assert (distance >= 0).all()
    assert distance.max() < np.sqrt(3)
    assert 40 < len(np.unique(number)) < 400


def test_random_numbers_are_even_and_hang_on_identity() -> None:
    values = found("random(5)")
    assert values.mean() == pytest.approx(0.5, abs=0.02)
    assert np.histogram(values, 10, (0, 1))[0] == pytest.approx(np.full(10, 372), abs=90)
    left = ops.remove(GEO, kind="face", where="position.x < 0")
    kept = evaluate("random(5)", left, "point").array
    assert set(kept) < set(values), "the points that are left keep their numbers"
    assert (found("random(6)") != values).mean() > 0.99


def test_a_key_gives_what_shares_it_one_number() -> None:
    assert len(np.unique(found("random(5, integer(position.x * 2))"))) <= 15
