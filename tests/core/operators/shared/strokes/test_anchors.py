"""Places held by faces: where they were put, and where they go when the surface moves, bends, grows or is cut."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.geometry.edit.placement import to_world
from reticula.core.operators.shared.strokes.anchors import anchored, anchors_of, is_anchor
from reticula.core.spatial.sampling import sample_closest
from tests.helpers import bumpy


def on_surface(geo: Geo, count: int = 60) -> np.ndarray:
    asked = np.random.default_rng(3).normal(size=(count, 3))
    return sample_closest(to_world(geo), asked).position


@pytest.mark.parametrize("geo", [bumpy(2), ops.displace(ops.grid(cells=(9, 7)))], ids=["triangles", "bent quads"])
def test_places_stay_where_they_were_put(geo: Geo) -> None:
    places = on_surface(geo)
    anchors, own = anchors_of(geo, places)
    assert all(map(is_anchor, anchors))
    np.testing.assert_allclose(own, places, atol=1e-9)
    where, growth = anchored(geo, anchors, np.full((60, 3), 99.0))
    np.testing.assert_allclose(where, places, atol=1e-4)
    np.testing.assert_allclose(growth, 1.0)


def test_they_follow_what_moves_and_grows() -> None:
    geo = bumpy(2)
    places = on_surface(geo)
    anchors, _ = anchors_of(geo, places)
    grown = ops.transform(geo, scale=(3, 3, 3), move=(1, 2, 3), turn=(10, 20, 30))
    where, growth = anchored(grown, anchors, places)
    expected = ops.transform(Geo.of(places), scale=(3, 3, 3), move=(1, 2, 3), turn=(10, 20, 30)).positions
    np.testing.assert_allclose(where, expected, atol=1e-3)
    np.testing.assert_allclose(growth, 3.0)


def test_other_faces_may_come_and_go_and_gone_ones_leave_places_in_space() -> None:
    geo = ops.grid(cells=(10, 10), size=(2, 2))
    places = np.array([[0.55, 0.0, 0.55], [-0.95, 0.0, -0.95]])
    anchors, _ = anchors_of(geo, places)
    corner = ops.remove(geo, kind="face", where="position.x < -0.8 and position.z < -0.8")
    where, _ = anchored(ops.transform(corner, move=(0, 5, 0)), anchors, places)
    np.testing.assert_allclose(where, [[0.55, 5, 0.55], [-0.95, 0, -0.95]], atol=1e-4)


def test_the_world_is_not_the_own_space() -> None:
    geo = ops.set_place(bumpy(2), move=(5, 0, 0), scale=(2, 2, 2))
    places = on_surface(geo)
    anchors, own = anchors_of(geo, places)
    np.testing.assert_allclose(own * 2 + [5, 0, 0], places, atol=1e-9)
    smaller = ops.set_place(geo, move=(0, 0, 0))
    where, growth = anchored(smaller, anchors, own)
    np.testing.assert_allclose(where, own, atol=1e-4)
    np.testing.assert_allclose(growth, 0.5)


def test_points_alone_hold_nothing() -> None:
    anchors, own = anchors_of(Geo.of([[0, 0, 0.0]]), np.ones((2, 3)))
    assert anchors == []
    assert own.tolist() == [[1, 1, 1]] * 2


@pytest.mark.parametrize(
    "value",
    [
        None,
        [],
        ["zz", 0, 1, 2, 0.1, 0.1, 1],
        ["1", 0, 1, 2, 0.1, 1],
        ["1", -1, 1, 2, 0, 0, 1],
        ["1", 0, 1, 2, 0, 0, -1],
    ],
)
def test_what_is_no_anchor(value: object) -> None:
    assert not is_anchor(value)
