"""Loops sorted into regions, laid flat, and filled."""

import numpy as np
import pytest

from reticula.core.geometry.planar.region_fill import (
    Inside,
    fill_region,
    nest_loops,
    nest_oriented_loops,
    project_to_plane,
)

SQUARE = np.array([[0.0, 0], [1, 0], [1, 1], [0, 1]])


def around(size: float) -> np.ndarray:
    return (SQUARE - 0.5) * size


def test_holes_go_to_the_outline_around_them_and_islands_are_regions() -> None:
    assert nest_loops([around(1), around(4), around(2), SQUARE + 9]) == [[0], [1, 2], [3]]


def test_outlines_that_cross_are_no_trouble() -> None:
    regions = nest_loops([around(2), around(2) + 0.5, around(2) + 1, around(0.1) + 0.4])
    assert sorted(n for region in regions for n in region) == [0, 1, 2, 3]


def test_outlines_with_a_direction_are_sorted_by_how_often_they_wind() -> None:
    back = slice(None, None, -1)
    assert nest_oriented_loops([around(4), around(2)]) == [[0], [1]], "twice around the inner one"
    assert nest_oriented_loops([around(2)[back], around(4)]) == [[1, 0]]
    assert nest_oriented_loops([around(6), around(4)[back], around(2), around(1)[back]]) == [[0, 1], [2, 3]]
    assert nest_oriented_loops([around(6), around(4), around(2)[back]]) == [[0], [1, 2]]
    assert nest_oriented_loops([around(2)[back]]) == [[0]]
    assert nest_oriented_loops([around(2), around(2)[back] + 1]) == [[0], [1]], "only partly inside"


def test_a_tilted_outline_is_laid_flat_without_changing_it() -> None:
    normal = np.array([1.0, 2.0, 3.0]) / np.sqrt(14)
    first = np.cross(normal, [0, 0, 1.0])
    first /= np.linalg.norm(first)
    tilted = SQUARE[:, :1] * first + SQUARE[:, 1:] * np.cross(normal, first)
    flat, axes = project_to_plane(tilted, normal)
    assert np.allclose(np.linalg.norm(flat[1] - flat[0]), 1)
    assert np.allclose(flat @ axes, tilted)
    x, y = flat.T
    assert 0.5 * (x * np.roll(y, -1) - y * np.roll(x, -1)).sum() == pytest.approx(1)


@pytest.mark.parametrize(("how", "faces"), [("polygon", 1), ("triangles", 2)])
def test_a_region_is_filled(how: str, faces: int) -> None:
    places = np.column_stack([SQUARE, np.zeros(4)])
    made = fill_region(places, [np.arange(4)], np.array([0, 0, 1.0]), how, Inside(4.0), 4)
    assert len(made.start) - 1 == faces
    assert len(made.added) == 0


def test_an_even_mesh_brings_points_of_its_own() -> None:
    along = np.linspace(0, 1, 12, endpoint=False)[:, None]
    places = np.concatenate(
        [(1 - along) * a + along * b for a, b in zip(SQUARE, np.roll(SQUARE, -1, axis=0), strict=True)]
    )
    places = np.column_stack([places, np.zeros(len(places))])
    made = fill_region(places, [np.arange(48)], np.array([0, 0, 1.0]), "even", Inside(12.0), 48)
    assert len(made.added) > 100
    assert made.point.max() == 47 + len(made.added)


def test_long_border_edges_keep_the_points_away() -> None:
    places = np.column_stack([SQUARE, np.zeros(4)])
    made = fill_region(places, [np.arange(4)], np.array([0, 0, 1.0]), "even", Inside(12.0), 4)
    assert 1 <= len(made.added) < 12


def test_loose_points_inside_become_corners_those_outside_or_above_do_not() -> None:
    loose = np.array([[0.3, 0.4, 0.0], [0.5, 0.5, 0.2], [2.0, 0.5, 0.0], [0.0, 0.5, 0.0]])
    places = np.concatenate([np.column_stack([SQUARE, np.zeros(4)]), loose])
    made = fill_region(places, [np.arange(4)], np.array([0, 0, 1.0]), "triangles", Inside(0.0, np.arange(4, 8)), 8)
    assert set(made.point.tolist()) == {0, 1, 2, 3, 4}
