"""Faces cut where a value changes its sign."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import Geo, ops
from reticula.core.geometry import measure
from reticula.core.geometry.edit.level_cut import cut_at_zero
from tests.helpers import bumpy, is_closed, volume


def test_a_cut_moves_nothing_and_leaves_no_crack() -> None:
    ball = bumpy(4)
    cut = cut_at_zero(ball, ball.positions[:, 1] - 0.13)
    assert is_closed(cut.geo)
    assert volume(cut.geo) == pytest.approx(volume(ball))
    assert np.array_equal(cut.geo.positions[: len(ball.positions)], ball.positions)
    assert np.abs(cut.geo.positions[len(ball.positions) :, 1] - 0.13).max() < 1e-12
    assert {*cut.side.tolist()} == {-1.0, 1.0}


def test_values_are_interpolated_along_the_edges() -> None:
    geo = ops.grid(cells=(5, 5))
    geo = geo.with_attribute("point", "x", geo.positions[:, 0])
    made = cut_at_zero(geo, geo.positions[:, 0] * 2 + geo.positions[:, 2] - 0.07).geo
    assert np.allclose(made.attribute("point", "x"), made.positions[:, 0])


def test_points_on_the_line_are_not_doubled() -> None:
    geo = ops.grid(cells=(2, 2))
    cut = cut_at_zero(geo, geo.positions[:, 0])
    assert cut.geo.counts["points"] == 9
    assert cut.on.sum() == 3


def test_a_concave_face_is_cut_whole() -> None:
    comb = Geo.from_faces(
        [[0, 0, 0], [5, 0, 0], [5, 2, 0], [4, 1, 0], [2, 2, 0], [1, 1, 0], [0, 2, 0]], [list(range(7))]
    )
    cut = cut_at_zero(comb, comb.positions[:, 1] - 1.5)
    assert measure.face_areas(cut.geo).sum() == pytest.approx(measure.face_areas(comb).sum())


@given(seed=st.integers(0, 10_000), whole=st.booleans())
def test_any_values_on_any_closed_mesh_keep_it_closed(seed: int, whole: bool) -> None:
    """Values of 0 at several corners of a face, in any order, are where cuts are hardest."""
    rng = np.random.default_rng(seed)
    make = (
        lambda: ops.box(cells=tuple(int(n) for n in rng.integers(1, 4, 3))),
        lambda: ops.sphere(rings=6, segments=7),
        lambda: ops.dual(ops.geodesic_sphere(frequency=2)),
        lambda: bumpy(seed, 2),
    )
    geo = make[seed % 4]()
    value = rng.integers(-2, 3, geo.topology.point_count) * (1.0 if whole else rng.random(geo.topology.point_count))
    made = cut_at_zero(geo, value)
    shape = made.geo.topology
    assert (shape.edge_face_count == 2).all()
    assert shape.euler_characteristic == 2
    at = np.concatenate([value, np.zeros(shape.point_count - len(value))])[shape.corner_point]
    low, high = (how.reduceat(at, shape.face_start[:-1]) for how in (np.minimum, np.maximum))
    assert not ((low < 0) & (high > 0)).any()
