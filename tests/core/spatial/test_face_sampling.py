"""Shares of corners at places in known faces."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.spatial.face_sampling import sample_faces


def test_the_triangle_of_the_face_in_which_the_place_lies_is_taken() -> None:
    house = Geo.from_faces(
        [[0, 0, 0], [2, 0, 0], [2, 2, 0], [1, 3, 0], [0, 2, 0], [4, 0, 0]], [[0, 1, 2, 3, 4], [1, 5, 2]]
    )
    places = np.array([[1.0, 2.5, 0], [0.1, 0.1, 0], [2.5, 0.5, 0]])
    corner, share = sample_faces(house, np.array([0, 0, 1]), places)
    at = house.positions[house.topology.corner_point[corner]]
    assert np.einsum("nk,nkj->nj", share, at) == pytest.approx(places)
    assert (share >= -1e-12).all()
    assert house.topology.corner_face[corner].tolist() == [[0] * 3, [0] * 3, [1] * 3]


def test_none_are_none() -> None:
    corner, share = sample_faces(ops.box(), np.zeros(0, int), np.zeros((0, 3)))
    assert corner.shape == share.shape == (0, 3)
