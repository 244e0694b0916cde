"""Points of a survey."""

import numpy as np
import pytest

from reticula.core.diagnostics import Note
from reticula.core.errors import FormatError
from reticula.core.formats.shared.survey import sited, upright, z_up
from reticula.core.geometry.edit.placement import place_of, to_world


def test_up_is_turned_and_back(rng: np.random.Generator) -> None:
    places = rng.random((5, 3))
    assert upright(np.array([[1.0, 2.0, 3.0]])).tolist() == [[1, 3, -2]]
    assert np.array_equal(z_up(upright(places)), places)


def test_a_far_site_has_a_place_that_leads_back(rng: np.random.Generator, notes: list[Note]) -> None:
    far = rng.random((5, 3)) + [500_000, 20, -4_000_000]
    geo = sited(far)
    assert np.abs(geo.positions).max() < 200
    assert place_of(geo)[:3, 3].tolist() == [500_000, 0, -4_000_000]
    assert to_world(geo).positions == pytest.approx(far, abs=1e-9)
    assert "place of their own" in notes[0].text


def test_a_near_one_stays_as_it_is(rng: np.random.Generator) -> None:
    assert not sited(rng.random((5, 3))).has("whole", "place")
    with pytest.raises(FormatError):
        sited(np.array([[np.nan, 0, 0]]))
