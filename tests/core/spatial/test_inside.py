"""Whether places are inside a mesh, or behind a sheet."""

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import ops
from reticula.core.spatial.inside import behind, inside


@given(st.integers(0, 1000))
def test_inside_a_ball_is_nearer_than_its_faces(seed: int) -> None:
    ball = ops.geodesic_sphere(radius=1.0, frequency=6)
    places = np.random.default_rng(seed).uniform(-1.2, 1.2, (200, 3))
    far = np.linalg.norm(places, axis=1)
    found = inside(ball, places)
    faces = np.linalg.norm(ball.positions[ball.topology.corner_point].reshape(-1, 3, 3).mean(axis=1), axis=1).min()
    assert found[far < faces - 1e-9].all()
    assert not found[far > 1.0].any()


def test_behind_a_sheet_is_below_it() -> None:
    sheet = ops.grid(size=(4, 4), cells=(4, 4))
    places = np.array([[0.1, 0.5, 0.2], [0.3, -0.5, 0.1], [1.2, -0.01, -1.1]])
    assert behind(sheet, places).tolist() == [False, True, True]
    assert behind(ops.reverse(sheet), places).tolist() == [True, False, False]
