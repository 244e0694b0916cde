"""Places taken apart into move, turn and scale."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.spatial.transform import Rotation

from reticula.core import Geo, ops
from reticula.core.formats.shared.placing import parts_of, without_shear


@given(seed=st.integers(0, 10**6))
def test_the_parts_make_the_place_again(seed: int) -> None:
    rng = np.random.default_rng(seed)
    matrices = np.tile(np.eye(4), (6, 1, 1))
    scale = rng.choice([-2.0, 0.5, 1.0, 3.0], (6, 3))
    matrices[:, :3, :3] = Rotation.random(6, rng=rng).as_matrix() * scale[:, None]
    matrices[:, :3, 3] = rng.normal(size=(6, 3))
    move, turn, size = parts_of(matrices)
    made = Rotation.from_quat(turn).as_matrix() * size[:, None]
    assert made == pytest.approx(matrices[:, :3, :3], abs=1e-9)
    assert np.array_equal(move, matrices[:, :3, 3])


def test_a_place_without_size_is_no_turn() -> None:
    _, turn, size = parts_of(np.diag([0.0, 1, 1, 1])[None])
    assert turn.tolist() == [[0, 0, 0, 1]]
    assert size.tolist() == [[0, 1, 1]]


def test_without_shear_nothing_changes() -> None:
    geo = ops.grid()
    assert without_shear(geo, "USD") is geo
    placed = ops.place_instances(Geo.of([(0, 0, 0)]), ops.box())
    assert without_shear(placed, "USD") is placed
