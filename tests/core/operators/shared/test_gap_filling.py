"""Points that keep a distance leave no room for another one, and the first of them stay."""

import numpy as np
import pytest
from scipy.spatial import cKDTree

from reticula.core import Geo, ops


def places_on(geo: Geo, count: int) -> np.ndarray:
    return ops.scatter(geo, total=count, arrangement="random", seed=99).positions


@pytest.mark.parametrize("seed", range(4))
@pytest.mark.parametrize(
    ("shape", "spacing"),
    [("grid", 0.05), ("grid", 0.3), ("sphere", 0.1), ("torus", 0.12), ("fine", 0.08), ("box", 0.2)],
)
def test_there_is_no_room_left(shape: str, spacing: float, seed: int) -> None:
    geo = ops.grid(cells=(40, 40)) if shape == "fine" else getattr(ops, shape)()
    made = ops.scatter(geo, amount="spacing", spacing=spacing, seed=seed)
    tree = cKDTree(made.positions)
    assert tree.query(made.positions, 2)[0][:, 1].min() >= spacing
    assert tree.query(places_on(geo, 20_000))[0].max() <= 1.03 * spacing


def test_where_the_density_is_lower_points_lie_farther_apart_without_gaps() -> None:
    sheet = ops.grid(cells=(20, 20))
    made = ops.scatter(sheet, amount="spacing", spacing=0.03, density="0.1 + 0.9 * (position.x + 0.5)")
    left, right = (made.positions[:, 0] < -0.3).sum(), (made.positions[:, 0] > 0.3).sum()
    assert right > 2 * left
    places = places_on(sheet, 20_000)
    reach = 0.03 / np.sqrt(np.clip(0.1 + 0.9 * (places[:, 0] + 0.5), 0.1, 1.0))
    assert (cKDTree(made.positions).query(places)[0] <= 1.25 * reach).all()


def test_only_marked_faces_are_filled() -> None:
    made = ops.scatter(ops.box(cells=(4, 4, 4)), amount="spacing", spacing=0.1, where="normal.y > 0.5")
    np.testing.assert_allclose(made.positions[:, 1], 0.5)


def test_two_sides_of_a_thin_sheet_do_not_see_each_other() -> None:
    thin = ops.box(size=(1, 0.001, 1))
    made = ops.scatter(thin, amount="spacing", spacing=0.1)
    up = made.positions[:, 1] > 0.0004
    for side in (up, made.positions[:, 1] < -0.0004):
        places = np.random.default_rng(0).uniform(-0.5, 0.5, (5000, 3)) * [1, 0, 1]
        far = cKDTree(made.positions[side] * [1, 0, 1]).query(places)[0]
        assert far.max() < 0.11
