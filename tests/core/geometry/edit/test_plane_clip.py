"""Meshes clipped by a plane."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.geometry.edit.plane_clip import ClippedHalf, clip_half, cut_by_plane
from tests.helpers import bumpy, is_closed, volume

UP = np.array([0.0, 1.0, 0.0])


def halves(geo: Geo, height: float, cap: bool = True) -> tuple[ClippedHalf, ClippedHalf]:
    whole, side, above = cut_by_plane(geo, np.array([0, height, 0]), UP, "rim")
    upper, lower = (clip_half(whole, side, above, sign, UP, "rim", "cap", cap=cap) for sign in (1.0, -1.0))
    return upper, lower


@pytest.mark.parametrize("height", [-0.4, 0.0, 0.31])
def test_both_halves_are_closed_and_add_up(height: float) -> None:
    ball = bumpy(6)
    upper, lower = halves(ball, height)
    assert is_closed(upper.geo)
    assert is_closed(lower.geo)
    assert volume(upper.geo) + volume(lower.geo) == pytest.approx(volume(ball))
    assert upper.uncapped == lower.uncapped == 0


def test_a_hole_through_the_cut_stays_a_hole() -> None:
    ring = ops.torus(radius=2, thickness=0.5)
    upper, _ = halves(ring, 0.1)
    assert is_closed(upper.geo)
    assert upper.geo.group("face", "cap").any()


def test_a_sheet_stays_open_and_says_so() -> None:
    wall = ops.transform(ops.grid(cells=(4, 4)), turn=(90, 0, 0))
    upper, _ = halves(wall, 0.1)
    assert upper.uncapped > 0
    assert upper.was_open
    assert not upper.geo.group("face", "cap").any()


def test_without_caps_the_cut_is_open() -> None:
    upper, _ = halves(ops.box(), 0.1, cap=False)
    assert upper.geo.topology.border_edges.sum() == 4
