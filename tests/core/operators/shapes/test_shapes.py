"""Starting shapes: counts, closedness, outward faces."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import ops
from reticula.core.errors import ParameterError
from reticula.core.geometry import measure
from tests.helpers import outward, volume


@given(st.integers(1, 5), st.integers(1, 5), st.integers(1, 5))
def test_box(x: int, y: int, z: int) -> None:
    box = ops.box(size=(1, 2, 3), cells=(x, y, z))
    assert box.counts["faces"] == 2 * (x * y + y * z + z * x)
    assert box.topology.euler_characteristic == 2
    assert not box.topology.border_edges.any()
    assert outward(box).min() > 0
    assert volume(box) == pytest.approx(6)


@pytest.mark.parametrize("facing", ["up", "forward", "side"])
def test_grid_faces_one_way_and_covers_its_size(facing: str) -> None:
    grid = ops.grid(size=(2, 3), cells=(4, 5), facing=facing)
    assert grid.counts["faces"] == 20
    assert measure.face_areas(grid).sum() == pytest.approx(6)
    axis = {"up": 1, "forward": 2, "side": 0}[facing]
    assert (measure.face_normals(grid)[:, axis] == 1).all()
    uv = grid.attribute("corner", "uv")
    assert [uv.min(), uv.max()] == [0, 1]


@given(st.integers(2, 12), st.integers(3, 12))
def test_sphere(rings: int, segments: int) -> None:
    ball = ops.sphere(radius=2, rings=rings, segments=segments)
    assert ball.counts["points"] == (rings - 1) * segments + 2
    assert ball.topology.euler_characteristic == 2
    assert np.allclose(np.linalg.norm(ball.positions, axis=1), 2)
    assert outward(ball).min() > 0
    uv = ball.attribute("corner", "uv")
    assert uv.min() >= 0
    assert uv.max() <= 1


@given(st.integers(1, 8))
def test_geodesic_sphere(frequency: int) -> None:
    ball = ops.geodesic_sphere(radius=1, frequency=frequency)
    assert ball.counts["faces"] == 20 * frequency**2
    assert ball.counts["points"] == 10 * frequency**2 + 2
    assert not ball.topology.border_edges.any()
    assert outward(ball).min() > 0


def test_torus() -> None:
    ring = ops.torus(radius=2, thickness=0.5, segments=200, sides=100)
    assert ring.topology.euler_characteristic == 0
    assert volume(ring) == pytest.approx(2 * np.pi**2 * 2 * 0.5**2, rel=2e-3)


@pytest.mark.parametrize(("caps", "euler"), [(True, 2), (False, 0)])
def test_cylinder(caps: bool, euler: int) -> None:
    tube = ops.cylinder(radius=1, height=3, segments=12, rings=4, caps=caps)
    assert tube.topology.euler_characteristic == euler
    assert tube.group("face", "side").sum() == 48
    assert tube.group("face", "cap").sum() == 2 * caps
    if caps:
        assert outward(tube).min() > 0


@pytest.mark.parametrize(
    ("call", "message"),
    [
        (lambda: ops.grid(sise=1), "grid has no such parameter; did you mean size"),
        (lambda: ops.sphere(rings=1), "1 is outside of 2 to 4000"),
        (lambda: ops.sphere(rings=3.5), "takes a whole number, not 3.5"),
        (lambda: ops.grid(size=(1, 2, 3)), "takes 2 numbers"),
        (lambda: ops.grid(size=(-1, 2)), "-1 is outside of 0"),
        (lambda: ops.cylinder(caps=1), "takes yes or no"),
        (lambda: ops.grid(facing="down"), "takes one of up, forward, side"),
        (lambda: ops.sphere(radius="nope"), "there is no 'nope'"),
        (lambda: ops.sphere(radius=float("nan")), "takes a finite number"),
    ],
)
def test_bad_parameters_are_named(call: object, message: str) -> None:
    with pytest.raises(ParameterError, match=message):
        call()  # type: ignore[operator]


def test_any_number_takes_a_formula() -> None:
    assert ops.sphere(rings="2 * 4", segments=8).counts["points"] == 58


def test_an_unknown_operator_names_its_neighbours() -> None:
    with pytest.raises(AttributeError, match="no operator 'extrud'; near it are extrude"):
        _ = ops.extrud
