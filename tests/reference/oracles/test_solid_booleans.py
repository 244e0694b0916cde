"""Booleans of solids against inclusion and exclusion, and against volumes that are known in closed form."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import Geo, ops
from reticula.core.diagnostics import collecting
from tests.helpers import bumpy, is_closed, volume


def boolean(a: Geo, b: Geo, operation: str) -> Geo:
    with collecting():
        return ops.boolean(a, b, operation=operation)


def moved(geo: Geo, by: np.ndarray, turn: np.ndarray | None = None, scale: float = 1.0) -> Geo:
    return geo.with_positions(scale * (geo.positions @ (np.eye(3) if turn is None else turn).T) + by)


def near_volume(geo: Geo, center: np.ndarray) -> float:
    """The volume of a mesh far from the origin, without losing digits to the distance."""
    return volume(geo.with_positions(geo.positions - center))


def turned(seed: int) -> np.ndarray:
    """A random rotation: QR of a Gaussian matrix (Stewart, SIAM J. Numer. Anal. 17, 1980)."""
    q, r = np.linalg.qr(np.random.default_rng(seed).normal(size=(3, 3)))
    q = q * np.sign(np.diag(r))
    return q * np.sign(np.linalg.det(q))


@given(st.integers(0, 10**6), st.sampled_from([0.0, 1e3, 1e6]), st.sampled_from([1e-3, 1.0, 1e3]))
def test_union_and_intersection_add_up_to_both(seed: int, away: float, scale: float) -> None:
    rng = np.random.default_rng(seed)
    center = away * scale * rng.normal(size=3)
    a = moved(bumpy(seed), center, turned(seed), scale)
    b = moved(bumpy(seed + 1), center + scale * rng.uniform(-0.8, 0.8, 3), turned(seed + 1), scale)
    parts = near_volume(a, center), near_volume(b, center)
    both, common, rest = (boolean(a, b, name) for name in ("union", "intersection", "difference"))
    assert is_closed(both)
    assert is_closed(common)
    assert is_closed(rest)
    exact = 1e-12 + 1e-14 * away
    assert near_volume(both, center) + near_volume(common, center) == pytest.approx(sum(parts), rel=exact)
    assert near_volume(rest, center) + near_volume(common, center) == pytest.approx(parts[0], rel=exact)


@pytest.mark.parametrize("away", [0.0, 1e3, 1e5, 1e6])
@pytest.mark.parametrize("width", [1e-3, 0.5])
def test_a_cut_has_its_volume_wherever_it_is_made(away: float, width: float) -> None:
    center = np.full(3, away)
    block, bar = moved(ops.box(size=(2, 2, 2)), center), moved(ops.box(size=(width, width, 5)), center)
    left = near_volume(boolean(block, bar, "difference"), center)
    assert left == pytest.approx(8 - 2 * width**2, abs=1e-14 + 1e-15 * away)


@pytest.mark.parametrize("scale", [1e-3, 1.0, 1e3])
def test_two_balls_meet_in_a_lens(scale: float) -> None:
    """The lens of two spheres (Weisstein, "Sphere-Sphere Intersection", MathWorld): V = pi (4R + d)(2R - d)^2 / 12."""
    ball = ops.geodesic_sphere(radius=scale, frequency=24)
    lens = boolean(ball, moved(ball, np.array([scale, 0, 0])), "intersection")
    assert volume(lens) == pytest.approx(np.pi * (4 + 1) * (2 - 1) ** 2 / 12 * scale**3, rel=0.01)
