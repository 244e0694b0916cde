"""Simplify: counts, errors, borders, values, topology."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import ops
from reticula.core.diagnostics import Note
from reticula.core.geometry import measure
from reticula.core.geometry.measure.seams import corner_seams
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


@pytest.mark.parametrize("error", [0.1, 0.02, 0.005])
def test_the_error_is_a_bound_even_on_a_rough_scan(error: float, notes: list[Note]) -> None:
    rng = np.random.default_rng(0)
    scan = ops.grid(cells=(30, 30))
    scan = scan.with_positions(scan.positions + rng.random((len(scan.positions), 1)) * [0, 0.05, 0])
    for fine in (scan, ops.geodesic_sphere(frequency=16)):
        coarse = ops.simplify(fine, to="error", error=error, keep_borders=False)
        assert surface_of(coarse).closest(fine.positions).distance.max() <= error
        assert surface_of(ops.triangulate(fine)).closest(coarse.positions).distance.max() <= error
        told = next(entry.text for entry in reversed(notes) if "moved away" in entry.text)
        assert float(told.split()[5]) <= error


def test_seams_stay_seams_and_nothing_else_becomes_one(notes: list[Note]) -> None:
    can = ops.triangulate(ops.cylinder(caps=False, segments=32, rings=24))
    made = ops.simplify(can, share=0.3)
    seams = corner_seams(made)
    ends = made.positions[made.topology.edges[seams]]
    assert 1 <= seams.sum() <= 24
    assert np.ptp(ends[..., [0, 2]].reshape(-1, 2), axis=0).max() < 0.01, "one straight line down the side"
    place, uv = made.positions[made.topology.corner_point], made.attribute("corner", "uv")
    assert uv[:, 1] == pytest.approx(place[:, 1] / np.ptp(place[:, 1]) + 0.5, abs=1e-6)
    around = np.arctan2(place[:, 2], place[:, 0]) / (2 * np.pi)
    off = (uv[:, 0] - around + 0.5) % 1 - 0.5
    back = (uv[:, 0] + around + 0.5) % 1 - 0.5
    assert min(np.ptp((way - way[0] + 0.5) % 1) for way in (off, back)) < 0.02


@pytest.mark.parametrize("far", [0.0, 1e4, 1e6])
@pytest.mark.parametrize("scale", [1e-3, 1.0, 1e3])
def test_where_it_stands_and_how_large_it_is_change_nothing(far: float, scale: float, notes: list[Note]) -> None:
    ball = bumpy(3, 5)
    here = ops.simplify(ball, share=0.3)
    made = ops.simplify(ops.transform(ball, scale=(scale,) * 3, move=(far, far, far)), share=0.3)
    assert made.counts["faces"] == here.counts["faces"]
    back = ops.transform(ops.transform(made, move=(-far, -far, -far)), scale=(1 / scale,) * 3)
    if far <= 1e4 * scale:
        assert volume(back) == pytest.approx(volume(here), rel=1e-3)


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
