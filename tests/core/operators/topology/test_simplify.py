"""Simplify: counts, errors, borders, values, topology."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import ops
from reticula.core.diagnostics import Note
from reticula.core.geometry import measure
from reticula.core.spatial import surface_of
from tests.helpers import bumpy, is_closed, volume


@given(st.integers(0, 10_000), st.floats(0.1, 0.9))
def test_a_closed_mesh_stays_closed(seed: int, share: float) -> None:
    ball = bumpy(seed, 4)
    made = ops.simplify(ball, share=share)
    assert is_closed(made)
    assert made.topology.euler_characteristic == 2
    assert made.counts["faces"] <= ball.counts["faces"]
    assert made.counts["faces"] >= int(share * ball.counts["faces"]) - 2


def test_a_flat_sheet_needs_two_triangles(notes: list[Note]) -> None:
    made = ops.simplify(ops.grid(cells=(9, 9)), to="error", error=1e-6, keep_borders=False)
    assert made.counts["faces"] == 2
    assert measure.face_areas(made).sum() == pytest.approx(1)


def test_the_error_bounds_the_distance(notes: list[Note]) -> None:
    fine = ops.geodesic_sphere(frequency=24)
    for error in (0.01, 0.003):
        coarse = ops.simplify(fine, to="error", error=error)
        away = surface_of(coarse).closest(fine.positions).distance
        assert away.max() < 4 * error
        assert coarse.counts["faces"] < fine.counts["faces"] / 4


def test_count_and_kept_points(notes: list[Note]) -> None:
    ball = ops.geodesic_sphere(frequency=10)
    made = ops.simplify(ball, to="count", count=300, keep="position.y > 0.45")
    assert made.counts["faces"] == 300
    kept = ball.positions[ball.positions[:, 1] > 0.45]
    assert all((made.positions == place).all(axis=1).any() for place in kept)


def test_borders_are_kept_on_demand() -> None:
    sheet = ops.triangulate(ops.grid(cells=(12, 12)))
    made = ops.simplify(sheet, share=0.3)
    assert made.topology.border_points.sum() == 48
    free = ops.simplify(sheet, share=0.05, keep_borders=False)
    assert measure.face_areas(free).sum() == pytest.approx(1)


def test_values_come_from_the_surface_before() -> None:
    ball = ops.triangulate(ops.grid(cells=(20, 20)))
    ball = ops.set_attribute(ball, name="across", value="position.x")
    ball = ops.set_attribute(ball, name="zone", kind="face", value="index % 7")
    made = ops.simplify(ball, share=0.2)
    assert made.attribute("point", "across") == pytest.approx(made.positions[:, 0], abs=1e-9)
    place = made.positions[made.topology.corner_point][:, [0, 2]] * [1, -1] + 0.5
    assert made.attribute("corner", "uv") == pytest.approx(place, abs=0.02)
    assert set(made.attribute("face", "zone")) <= set(range(7))


def test_welding_again_and_again() -> None:
    torus = ops.torus()
    made = ops.simplify(torus, method="weld", radius=0.08)
    assert made.counts["faces"] < torus.counts["faces"] / 2
    assert volume(made) == pytest.approx(volume(torus), rel=0.4)
    assert not any(name.startswith("_") for name in made.attributes["point"])


def test_keeping_all_is_the_same_mesh() -> None:
    ball = ops.geodesic_sphere(frequency=2)
    assert ops.simplify(ball, share=1.0) is ball
    assert np.array_equal(ops.simplify(ball, share=0.999).positions[:5], ball.positions[:5])


def test_a_point_with_very_many_neighbours(notes: list[Note]) -> None:
    disc = ops.disc(segments=6000, rings=1)
    made = ops.simplify(ops.extrude(disc, keep_base=True), share=0.3, keep_borders=False)
    assert is_closed(made)
    assert made.topology.euler_characteristic == 2
