"""Random places on faces, even spacing among them, and the values that they carry."""

import numpy as np
import pytest
from scipy.spatial import cKDTree

from reticula.core import ops
from reticula.core.diagnostics import Note
from reticula.core.errors import LimitError
from reticula.core.operators.shared.scatter_candidates import (
    Spacing,
    carried_points,
    evenly,
    on_surface,
    require,
    spaced,
)

SHEET = ops.set_attribute(ops.grid(size=(2, 1), cells=(2, 1)), name="heat", value="3 * position.x - 2 * position.z")


def candidates(count: int = 4000, density: np.ndarray | None = None):  # type: ignore[no-untyped-def]
    return on_surface(SHEET, np.ones(6) if density is None else density, np.ones(2, bool), count, 3)


def gaps(places: np.ndarray) -> np.ndarray:
    return cKDTree(places).query(places, k=2)[0][:, 1]


def test_counts_are_whole_and_bounded() -> None:
    assert [require(count) for count in (0, 2.6, -1)] == [0, 3, 0]
    with pytest.raises(LimitError, match="30,000,000 points; 20,000,000 is the most"):
        require(3e7)


def test_places_follow_area_and_density() -> None:
    even = candidates()
    assert (even.position[:, 0] > 0).mean() == pytest.approx(0.5, abs=0.03)
    assert even.normal == pytest.approx(np.tile([0, 1, 0], (4000, 1)))
    right = candidates(density=np.clip(SHEET.positions[:, 0], 0, None))
    assert (right.position[:, 0] >= 0).all(), "the density rises from 0 in the middle"
    assert right.position[:, 0].mean() == pytest.approx(2 / 3, abs=0.02), "of a density x on 0..1 the mean is 2/3"


def test_no_density_is_said(notes: list[Note]) -> None:
    assert len(candidates(density=np.zeros(6)).position) == 0
    assert "no area with a density above 0" in notes[0].text


def test_even_ones_keep_farther_apart_than_random_ones() -> None:
    kept = evenly(candidates(1000), 200, 2.0, flat=True)
    assert len(kept.position) == 200
    assert gaps(kept.position).min() > 4 * gaps(candidates(200).position).min()
    assert len(evenly(candidates(10), 0, 2.0, flat=True).position) == 0


def test_spaced_ones_keep_their_distance_and_leave_no_gap() -> None:
    kept = spaced(candidates(), Spacing(0.1, 1.0, True)).position
    assert gaps(kept).min() >= 0.1
    assert cKDTree(kept).query(candidates().position)[0].max() < 0.1, "nothing more would fit"


def test_a_linear_field_is_carried_exactly() -> None:
    made = carried_points(SHEET, candidates(50))
    x, _, z = made.positions.T
    assert made.attribute("point", "heat") == pytest.approx(3 * x - 2 * z)
    assert set(made.attribute("point", "source_face")) == {0, 1}
    weights = made.attribute("point", "source_weights")
    assert weights.sum(axis=1) == pytest.approx(np.ones(50))
