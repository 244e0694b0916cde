"""Set place: say where a shape stands in the world without changing its points."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import ParameterError
from reticula.core.geometry.edit.affine import SPEED
from reticula.core.geometry.edit.placement import in_space_of, place_of, to_own_space, to_world


def distances(geo: Geo, source: Geo, **more: object) -> np.ndarray:
    made = ops.set_attribute(geo, source, name="far", value="source.closest(position).distance", **more)
    return made.attribute("point", "far")


def test_moving_either_one_gives_the_same_nearness(ball: Geo) -> None:
    dot = Geo.of([[0, 0, 0]])
    moved = distances(dot, ops.transform(ball, move=(2, 0, 0)))
    assert distances(dot, ops.set_place(ball, move=(2, 0, 0)))[0] == pytest.approx(moved[0])
    assert distances(ops.set_place(dot, move=(-2, 0, 0)), ball)[0] == pytest.approx(moved[0])
    both = distances(ops.set_place(dot, move=(-1, 0, 0)), ops.set_place(ball, move=(1, 0, 0)))
    assert both[0] == pytest.approx(moved[0])


def test_own_space_leaves_places_out(ball: Geo) -> None:
    dot = Geo.of([[0, 0, 2]])
    far = distances(dot, ops.set_place(ball, move=(2, 0, 0)), space="own")
    assert far[0] == pytest.approx(1.5, abs=0.01)


def test_turned_and_scaled_places(ball: Geo, notes: list[Note]) -> None:
    """A wall that stands turned by a right angle and twice as large is hit where it stands."""
    wall = ops.set_place(ops.grid(size=(1, 1)), turn=(0, 0, 90), scale=(2, 2, 2), move=(3, 0, 0))
    made = ops.raycast(Geo.of([[0, 0.9, 0.9], [0, 1.1, 0]]), wall, direction=(1, 0, 0))
    assert made.group("point", "hit").tolist() == [True, False]
    assert made.attribute("point", "hit_distance")[0] == pytest.approx(3.0)
    np.testing.assert_allclose(made.attribute("point", "hit_normal")[0], [-1, 0, 0], atol=1e-12)


def test_places_add_up_and_are_told(notes: list[Note]) -> None:
    once = ops.set_place(ops.box(), move=(1, 0, 0))
    twice = ops.set_place(once, move=(0, 2, 0), combine="add")
    np.testing.assert_allclose(place_of(twice)[:3, 3], [1, 2, 0])
    np.testing.assert_allclose(place_of(ops.set_place(once, move=(0, 2, 0)))[:3, 3], [0, 2, 0])
    assert "Its origin stands at 1, 2, 0 m." in [note.text for note in notes]
    with pytest.raises(ParameterError, match="scale"):
        ops.set_place(ops.box(), scale=(0, 1, 1))


def test_what_is_seen_is_kept_and_shared(ball: Geo) -> None:
    here = ops.set_place(ops.box(), move=(1, 0, 0))
    assert in_space_of(ball, here) is in_space_of(ball, here)
    assert in_space_of(ball, ops.box()) is ball
    assert to_world(ball) is ball
    np.testing.assert_allclose(to_own_space(here, np.array([1.0, 2.0, 3.0])), [0, 2, 3])


def test_templates_are_not_moved(notes: list[Note]) -> None:
    dots = ops.set_place(Geo.of([[0, 0, 0], [1, 0, 0]]), move=(10, 0, 0))
    placed = ops.apply_place(ops.flatten_instances(ops.place_instances(dots, ops.box())))
    np.testing.assert_allclose(placed.bounds[:, 0], [9.5, 11.5])


def test_stored_values_turn_along() -> None:
    arrow = Geo.of(
        [[1, 0, 0]],
        normal=np.array([[1.0, 0, 0]]),
        velocity=np.array([[2.0, 0, 0]]),
        rotation=np.array([[0, 0, 0, 1.0]]),
    )
    seen = to_world(ops.set_place(arrow, turn=(0, 0, 90), scale=(2, 2, 2)))
    np.testing.assert_allclose(seen.positions, [[0, 2, 0]], atol=1e-12)
    np.testing.assert_allclose(seen.attribute("point", "normal"), [[0, 1, 0]], atol=1e-12)
    np.testing.assert_allclose(seen.attribute("point", SPEED), [[0, 4, 0]], atol=1e-12)
    np.testing.assert_allclose(np.abs(seen.attribute("point", "rotation")), [[0, 0, 0.5**0.5, 0.5**0.5]], atol=1e-12)


def test_files_hold_the_world(tmp_path, ball: Geo) -> None:
    ops.set_place(ball, move=(7, 0, 0)).write(tmp_path / "a.ply")
    assert Geo.read(tmp_path / "a.ply").bounds.mean(axis=0)[0] == pytest.approx(7.0)


def test_only_instances_are_warned_of(notes: list[Note]) -> None:
    field = ops.place_instances(Geo.of([[0, 0, 0]]), ops.box())
    lone = ops.remove(field, kind="point")
    ops.group(lone, where="area > 1")
    assert any("put flatten instances before this" in note.text for note in notes)
