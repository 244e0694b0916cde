"""Whether surfaces stay within a distance of each other."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.spatial.deviation import deviation_within

BOX = ops.box()
SHEET = ops.grid()


def bracketed(a: Geo, b: Geo, far: float) -> None:
    """Held just above a distance, broken just below, whichever is asked of the other."""
    for one, other in ((a, b), (b, a)):
        assert deviation_within(one, other, 1.005 * far + 1e-12).held
        less = deviation_within(one, other, 0.99 * far)
        assert not less.held
        assert 0.99 * far < less.farthest <= 1.0001 * far


@pytest.mark.parametrize("far", [1e-9, 0.25, 3.0])
@pytest.mark.parametrize("cells", [1, 7, 30])
def test_sheets_one_above_the_other(far: float, cells: int) -> None:
    bracketed(SHEET, ops.transform(ops.grid(cells=(cells, cells)), move=(0, far, 0)), far)


def test_both_ways_count() -> None:
    bracketed(ops.remove(ops.grid(), where="position.x > 0"), ops.grid(), 0.5)


def test_a_ball_in_its_box() -> None:
    ball = ops.geodesic_sphere(radius=0.5, frequency=20)
    away = deviation_within(ball, BOX, 0.9)
    assert away.held
    assert away.farthest == pytest.approx(np.sqrt(0.75) - 0.5, abs=2e-3)


def test_a_bump_between_all_samples_is_found() -> None:
    """A sharp point over the inside of a triangle, far from its corners, its middle and the middles of its edges."""
    sheet = ops.triangulate(SHEET)
    fine = ops.triangulate(ops.grid(cells=(50, 50)))
    place = np.array(fine.positions)
    n = np.argmin(np.linalg.norm(place - [0.14, 0, 0.3], axis=1))
    place[n, 1] = 0.05
    bracketed(sheet, fine.with_positions(place), 0.05)


def test_a_bend_is_met_in_the_middle_of_a_long_face() -> None:
    """Two points hold the roof's foot; the sheet below it meets its ridge nowhere but inside its faces."""
    roof = ops.grid(cells=(2, 1))
    place = np.array(roof.positions)
    place[np.abs(place[:, 0]) < 1e-9, 1] = 0.1
    away = deviation_within(ops.triangulate(SHEET), roof.with_positions(place), 0.0975)
    assert not away.held
    assert deviation_within(ops.triangulate(SHEET), roof.with_positions(place), 0.1005).held


@pytest.mark.parametrize("limit", [0.0, 1e-9, 1e-3])
def test_one_surface_cut_in_other_ways_is_the_same(limit: float) -> None:
    fine = ops.triangulate(ops.box(cells=(9, 11, 13)))
    assert deviation_within(fine, BOX, limit).held
    assert deviation_within(
        ops.transform(fine, move=(1e6, 0, 0)), ops.transform(BOX, move=(1e6, 0, 0)), limit + 1e-9
    ).held


def test_nothing_is_infinitely_far() -> None:
    away = deviation_within(BOX, Geo.empty(), 1.0)
    assert not away.held
    assert away.farthest == np.inf
