"""Neighbours that look the same way: any faces turned are found again, bands with one side are torn."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import Geo, ops
from reticula.core.geometry.edit.flip import flipped
from reticula.core.geometry.edit.orientation import consistent_orientation
from tests.helpers import bumpy


def band(twists: int) -> Geo:
    """A ring of 12 quads; with an odd number of twists it has one side."""
    points = np.zeros((24, 3))
    quads = []
    for k in range(12):
        last = k == 11 and twists % 2
        a, b = 2 * k, 2 * ((k + 1) % 12)
        quads.append([a, b + bool(last), b + (not last), a + 1])
        points[a : a + 2] = [[np.cos(k), np.sin(k), 0], [np.cos(k), np.sin(k), 1]]
    return Geo.from_faces(points, quads)


@given(st.integers(0, 10_000))
def test_any_faces_that_were_turned_are_found(seed: int) -> None:
    ball = bumpy(seed, 2)
    turned = np.random.default_rng(seed).random(ball.topology.face_count) < 0.5
    found = consistent_orientation(flipped(ball, turned).topology)
    assert (found.region == 0).all()
    assert not found.torn.any()
    assert (found.turned == turned).all() or (found.turned != turned).all()


@pytest.mark.parametrize(("twists", "torn"), [(0, 0), (1, 1)])
def test_a_band_with_one_side_is_torn_at_one_edge(twists: int, torn: int) -> None:
    assert consistent_orientation(band(twists).topology).torn.sum() == torn


def test_regions_end_where_three_faces_meet_and_at_what_is_not_asked_for() -> None:
    points = [[0, 0, 0], [0, 1, 0], [1, 0, 0], [-1, 0, 0], [0, 0, 1]]
    fin = Geo.from_faces(points, [[0, 1, 2], [0, 1, 3], [0, 1, 4]])
    assert consistent_orientation(fin.topology).region.tolist() == [0, 1, 2]
    strip = ops.grid(cells=(5, 1))
    asked = np.array([True, True, False, True, True])
    assert consistent_orientation(strip.topology, asked).region.tolist() == [0, 0, -1, 1, 1]
