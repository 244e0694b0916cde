"""What a boolean keeps: faces, positions and values that nothing cut, and values of the right solid at the seam."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import collecting


def boolean(a: Geo, b: Geo, operation: str) -> Geo:
    with collecting():
        return ops.boolean(a, b, operation=operation)


@pytest.fixture
def ball() -> Geo:
    """A sphere of quads with random values on every kind."""
    rng = np.random.default_rng(1)
    made = ops.transform(ops.sphere(), move=(0.1234567, 1 / 3, 77.7))
    shape = made.topology
    made = made.with_attribute("edge", "crease", 1 + rng.random(shape.edge_count))
    made = made.with_attribute("corner", "uv", rng.random((shape.corner_count, 2)))
    return made.with_attribute("point", "heat", 1 + rng.random(shape.point_count))


def near(ball: Geo, **size: tuple[float, float, float]) -> Geo:
    return ops.transform(ops.box(**size), move=(0.4234567, 0.6333333, 78.0))


def test_what_does_not_touch_stays_to_the_bit(ball: Geo) -> None:
    far = ops.transform(ops.box(), move=(9, 0, 0))
    made = boolean(ball, far, "union")
    first = ops.remove(made, kind="face", where="from_others")
    assert first.positions.tolist() == ball.positions.tolist()
    assert sorted(first.topology.face_size) == sorted(ball.topology.face_size)
    assert sorted(first.attribute("edge", "crease")) == sorted(ball.attribute("edge", "crease"))
    assert sorted(map(tuple, first.attribute("corner", "uv"))) == sorted(map(tuple, ball.attribute("corner", "uv")))


def test_faces_that_nothing_cuts_stay_polygons(ball: Geo) -> None:
    made = boolean(ball, near(ball, size=(0.2, 0.2, 0.2)), "difference")
    known = {tuple(place) for place in ball.positions}
    shape = made.topology
    old = np.array([tuple(place) in known for place in made.positions])
    untouched = np.logical_and.reduceat(old[shape.corner_point], shape.face_start[:-1]) & (shape.face_size == 4)
    assert untouched.sum() >= 430, "of the 448 quads only those at the small box are cut"
    assert np.isin(made.attribute("edge", "crease"), [0, *ball.attribute("edge", "crease")]).all()


@pytest.mark.parametrize("operation", ["union", "difference", "intersection"])
def test_a_value_that_one_solid_has_reaches_the_seam_whole(ball: Geo, operation: str) -> None:
    box = near(ball, size=(0.7, 0.7, 0.7))
    box = box.with_attribute("point", "cold", np.ones(8))
    made = boolean(ball, box, operation)
    seam = np.unique(made.topology.edges[made.group("edge", "seam")])
    assert len(seam) > 8
    assert made.attribute("point", "cold")[seam] == pytest.approx(1)
    assert (made.attribute("point", "heat")[seam] > 0.99).all()


def test_a_value_that_both_have_is_the_first_one_s_at_the_seam(ball: Geo) -> None:
    box = near(ball, size=(0.7, 0.7, 0.7)).with_attribute("point", "heat", np.full(8, -5.0))
    made = boolean(ball, box, "union")
    seam = np.unique(made.topology.edges[made.group("edge", "seam")])
    assert (made.attribute("point", "heat")[seam] > 0.99).all()
