"""Places in triangles as weights."""

import numpy as np

from reticula.core.geometry.planar.barycentric import barycentric


def test_weights_give_the_place_back(rng: np.random.Generator) -> None:
    corner = rng.normal(size=(50, 3, 3))
    share = rng.dirichlet([1, 1, 1], 50)
    place = np.einsum("nk,nkw->nw", share, corner)
    assert np.allclose(barycentric(corner, place), share)


def test_places_outside_are_brought_to_the_triangle() -> None:
    corner = np.array([[[0, 0, 0], [1, 0, 0], [0, 1, 0]]], float)
    weights = barycentric(corner, np.array([[5.0, -3.0, 0.0]]))
    assert (weights >= 0).all()
    assert np.isclose(weights.sum(), 1)


def test_a_triangle_without_area_gives_its_first_corner() -> None:
    assert barycentric(np.ones((1, 3, 3)), np.zeros((1, 3))).tolist() == [[1, 0, 0]]
