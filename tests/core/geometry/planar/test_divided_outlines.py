"""Outline edges divided for an even mesh."""

import numpy as np

from reticula.core.geometry.planar.divided_outlines import divided_outlines

SQUARE = np.array([[0.0, 0], [1, 0], [1, 1], [0, 1]])
NONE = np.zeros(4, bool)


def test_edges_are_divided_to_the_size_asked_for() -> None:
    (cuts,) = divided_outlines([SQUARE], [NONE], 8)
    assert len(cuts.edge) == 32
    assert np.allclose(cuts.share[:8], np.arange(8) / 8)


def test_edges_of_faces_stay_whole_and_those_beside_them_are_as_fine_as_before() -> None:
    (cuts,) = divided_outlines([SQUARE], [np.array([True, False, False, False])], 8)
    assert np.bincount(cuts.edge).tolist() == [1, 8, 8, 8]


def test_pieces_grow_slowly_away_from_short_ones() -> None:
    hole = (SQUARE * 0.01 + 0.5)[::-1]
    outer, inner = divided_outlines([SQUARE, hole], [NONE, NONE], 1)
    assert len(inner.edge) == 4
    assert 8 <= len(outer.edge) <= 24


def test_narrow_places_are_divided_as_they_are_wide() -> None:
    (cuts,) = divided_outlines([SQUARE * [1, 0.05]], [NONE], 1)
    pieces = np.bincount(cuts.edge)
    assert (pieces[[0, 2]] >= 18).all()


def test_a_larger_shape_is_divided_alike() -> None:
    small, large = (divided_outlines([SQUARE * size], [NONE], 5)[0] for size in (1e-3, 1e3))
    assert np.array_equal(small.edge, large.edge)
