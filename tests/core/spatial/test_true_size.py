"""Distances and reaches are in metres of the world, whatever the place of a shape scales: beside shapes that stand in
the world themselves."""

from __future__ import annotations

import numpy as np
import pytest

from reticula.core import Geo, ops, run_script
from reticula.core.geometry.edit.affine import affine_matrix
from reticula.core.geometry.edit.placement import to_world
from reticula.core.geometry.measure.areas import face_normals
from reticula.core.language import evaluate
from reticula.core.spatial.points import points_of
from reticula.core.spatial.sampling import sample_closest, sample_hits, sample_points, sample_ray
from reticula.core.spatial.thickness import thickness
from reticula.core.spatial.true_size import true_size
from tests.helpers import bumpy

SCALES = [(2.0, 0.5, 1.0), (3.0, 3.0, 3.0), (-1.0, 2.0, 0.25), (1e-3, 1e-3, 2e-3)]


@pytest.fixture(params=SCALES, ids=str)
def placed(request: pytest.FixtureRequest) -> Geo:
    """A ball whose place moves, turns and scales it."""
    matrix = affine_matrix([0.3, -2.0, 5.0], [20.0, 40.0, 60.0], list(request.param))
    return bumpy(4).with_attribute("whole", "place", matrix[None], "mat4")


def rows(count: int, seed: int = 1) -> np.ndarray:
    return np.random.default_rng(seed).uniform(-1.5, 1.5, (count, 3))


def in_world(geo: Geo, places: np.ndarray, *, direction: bool = False) -> np.ndarray:
    matrix = geo.attribute("whole", "place")[0]
    return places @ matrix[:3, :3].T + (0.0 if direction else matrix[:3, 3])


def assert_same(found: object, expected: object, geo: Geo) -> None:
    np.testing.assert_array_equal(found.found, expected.found)
    np.testing.assert_allclose(found.distance, expected.distance, rtol=1e-9, atol=1e-12)
    hit = found.found
    np.testing.assert_allclose(in_world(geo, found.position)[hit], expected.position[hit], atol=1e-9)


def test_questions_are_answered_as_in_the_world(placed: Geo) -> None:
    world, asked = to_world(placed), rows(200)
    size = float(np.linalg.norm(world.bounds[1] - world.bounds[0]))
    for reach in (np.inf, 0.1 * size):
        assert_same(sample_closest(placed, asked, reach), sample_closest(world, in_world(placed, asked), reach), placed)
        assert_same(sample_points(placed, asked, reach), sample_points(world, in_world(placed, asked), reach), placed)
        ways = rows(200, 2)
        turned = in_world(placed, ways, direction=True)
        found = sample_ray(placed, asked, ways, reach, both=True)
        assert_same(found, sample_ray(world, in_world(placed, asked), turned, reach, both=True), placed)
        start, hits = sample_hits(placed, asked, ways, reach)
        begin, expected = sample_hits(world, in_world(placed, asked), turned, reach)
        np.testing.assert_array_equal(start, begin)
        np.testing.assert_allclose(hits.distance, expected.distance, rtol=1e-9)
    near = points_of(placed).near(asked, 0.2 * size)
    np.testing.assert_array_equal(near[0], points_of(world).near(in_world(placed, asked), 0.2 * size)[0])


def test_normals_are_those_of_the_own_space(placed: Geo) -> None:
    found = sample_closest(placed, rows(50))
    np.testing.assert_allclose(found.normal, face_normals(placed)[found.face], atol=1e-9)


def test_places_on_curves(placed: Geo) -> None:
    lines = ops.edges_to_curves(placed)
    lines = ops.remove(lines, kind="face", leftovers="keep") if lines.topology.face_count else lines
    asked = rows(50)
    assert_same(sample_closest(lines, asked), sample_closest(to_world(lines), in_world(placed, asked)), placed)


def test_a_rigid_place_changes_nothing() -> None:
    ball = ops.set_place(bumpy(4), move=(1, 2, 3), turn=(10, 20, 30))
    sized = true_size(ball)
    assert sized.geo is ball
    asked = rows(3)
    assert sized.enter(asked) is asked
    assert sized.back(asked) is asked
    assert sized.stretch(asked).tolist() == [1, 1, 1]


def test_operators_measure_in_the_world() -> None:
    scale = (2.0, 1.0, 1.0)
    sheet = ops.set_place(ops.grid(size=(2, 2), cells=(8, 8)), scale=scale)
    lamp = ops.set_place(Geo.of([[0, 1.0, 0]]), scale=(1, 1, 1))
    flat = to_world(sheet)
    for reach in (1.2, 1.8):
        near = ops.group_by_nearness(sheet, lamp, kind="point", to="points", reach=reach, name="near")
        distance = np.linalg.norm(flat.positions - [0, 1, 0], axis=1)
        np.testing.assert_array_equal(near.group("point", "near"), distance <= reach)
    wall = ops.transform(ops.grid(size=(9, 9), facing="side"), move=(3, 0, 0))
    rays = ops.raycast(sheet, wall, kind="point", direction=(1, 0, 0))
    hit = rays.group("point", "hit")
    assert hit.all()
    np.testing.assert_allclose(rays.attribute("point", "hit_distance"), 3 - flat.positions[:, 0])
    np.testing.assert_allclose(rays.attribute("point", "hit_position")[:, 0], 1.5)
    short = ops.raycast(sheet, wall, kind="point", direction=(1, 0, 0), limit_reach=True, reach=2.1)
    np.testing.assert_array_equal(short.group("point", "hit"), flat.positions[:, 0] > 0.9)
    pushed = ops.push(sheet, wall, along="direction", direction=(1, 0, 0), amount=9, gap=0.5, where="position.x < 0.9")
    moved = to_world(pushed).positions[:, 0]
    np.testing.assert_allclose(moved, np.where(sheet.positions[:, 0] < 0.9, 2.5, 2.0))


@pytest.mark.parametrize("backend", ["vector", "auto"])
def test_formulas_ask_in_the_world(placed: Geo, backend: str) -> None:
    other = ops.transform(to_world(placed), move=(0.5, 0, 0))
    made = run_script(
        placed,
        "far: geometry\nhere.d = far.closest(position).distance",
        each="point",
        inputs={"far": other},
        backend=backend,
    )
    expected = sample_closest(other, to_world(placed).positions).distance
    np.testing.assert_allclose(made.attribute("point", "d"), expected, rtol=1e-7, atol=1e-9)
    own = evaluate("thickness", placed, "point").array
    np.testing.assert_allclose(own, thickness(placed))
    assert own.max() <= float(np.linalg.norm(np.ptp(to_world(placed).positions, axis=0)))
