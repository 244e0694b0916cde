"""Scatter: scatter random points on a surface, with all that the surface knows at each place."""

import numpy as np
import pytest
from scipy.spatial import cKDTree

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import LimitError, ParameterError
from reticula.core.geometry.measure.areas import face_areas
from tests.core.operators.scattering.support import gaps


def test_points_lie_on_the_surface_and_carry_its_values(ball: Geo) -> None:
    labelled = ops.set_attribute(ball, name="plot", kind="face", value="index")
    made = ops.scatter(labelled, total=300)
    assert made.topology.point_count == 300
    np.testing.assert_allclose(made.attribute("point", "heat"), made.positions[:, 1], atol=1e-12)
    assert (made.attribute("point", "plot") == made.attribute("point", "source_face")).all()
    corners = np.array([made.find("point", "source_corners").row(i) for i in range(300)])
    places = ball.positions[ball.topology.corner_point[corners]]
    np.testing.assert_allclose(
        np.einsum("nk,nkj->nj", made.attribute("point", "source_weights"), places), made.positions, atol=1e-12
    )
    np.testing.assert_allclose(np.linalg.norm(made.attribute("point", "normal"), axis=1), 1.0)


def test_amounts(ball: Geo, notes: list[Note]) -> None:
    area = face_areas(ball).sum()
    assert ops.scatter(ball, amount="per area", per_area=100).topology.point_count == round(100 * area)
    small, large = (
        ops.scatter(ops.transform(ball, scale=(s, s, s)), amount="relative").topology.point_count for s in (0.5, 3)
    )
    assert small == large
    assert ops.scatter(ball, total=0).topology.point_count == 0
    with pytest.raises(LimitError, match="20,000,000 is the most"):
        ops.scatter(ball, total=1e9)
    with pytest.raises(ParameterError, match="density"):
        ops.scatter(ball, density="-1.0")
    ops.scatter(ball, density=0.0)
    assert "no area with a density above 0" in notes[-2].text
    assert ops.scatter(ball, where="False").topology.point_count == 0


def test_more_points_keep_the_first_ones(ball: Geo) -> None:
    few, many = ops.scatter(ball, total=50), ops.scatter(ball, total=80)
    assert (few.positions == many.positions[:50]).all()
    assert (ops.scatter(ball, total=50, seed=1).positions != few.positions).any()


def test_even_points_keep_apart(ball: Geo) -> None:
    random, even = ops.scatter(ball, total=400), ops.scatter(ball, total=400, arrangement="even")
    largest = np.sqrt(face_areas(ball).sum() / (2 * np.sqrt(3) * 400))
    assert gaps(even).min() > 0.55 * 2 * largest
    assert gaps(random).min() < 0.2 * largest
    assert even.topology.point_count == 400
    spaced = ops.scatter(ball, amount="spacing", spacing=0.2)
    assert gaps(spaced).min() >= 0.2
    cover = cKDTree(spaced.positions).query(ops.scatter(ball, total=5000).positions)[0]
    assert (cover < 0.25).mean() > 0.999


def test_both_sides_of_a_thin_plate_do_not_crowd_each_other() -> None:
    plate = ops.box(size=(1, 0.002, 1))
    made = ops.scatter(plate, amount="spacing", spacing=0.1)
    top = made.positions[:, 1] > made.positions[:, 1].mean()
    assert 0.4 < top.mean() < 0.6
    one_side = ops.scatter(ops.grid(), amount="spacing", spacing=0.1).topology.point_count
    assert made.topology.point_count > 1.6 * one_side


def test_density_by_formula_and_by_group() -> None:
    sheet = ops.grid(cells=(10, 10))
    made = ops.scatter(sheet, total=4000, density="position.x + 0.5")
    assert made.positions[:, 0].mean() == pytest.approx(1 / 6, abs=0.02)
    part = ops.scatter(sheet, total=100, where="position.x > 0")
    assert part.positions[:, 0].min() >= 0
    assert (part.attribute("point", "source_face") % 10 >= 5).all()
    dense = ops.scatter(sheet, total=500, arrangement="even", density="1.0 if position.x > 0 else 0.25")
    right = (dense.positions[:, 0] > 0).mean()
    assert 0.7 < right < 0.88
