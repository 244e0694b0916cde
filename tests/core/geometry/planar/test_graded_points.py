"""Points inside a polygon for well shaped triangles."""

import numpy as np

from reticula.core.geometry.planar.delaunay import triangulate_polygon
from reticula.core.geometry.planar.graded_points import graded_points

NOTHING = np.zeros((0, 2))


def smallest_angle(places: np.ndarray, triangles: np.ndarray) -> float:
    corner = places[triangles]
    ahead, behind = np.roll(corner, -1, axis=1) - corner, np.roll(corner, 1, axis=1) - corner
    cosine = (ahead * behind).sum(axis=2) / np.linalg.norm(ahead, axis=2) / np.linalg.norm(behind, axis=2)
    return float(np.degrees(np.arccos(cosine.max())))


def ring(count: int, radius: float = 1.0) -> np.ndarray:
    angle = 2 * np.pi * np.arange(count) / count
    return radius * np.stack([np.cos(angle), np.sin(angle)], axis=1)


def test_uneven_rings_get_points_where_their_edges_are_short() -> None:
    flat = np.concatenate([ring(12, 2.0), ring(60, 0.4)[::-1]])
    loops = [np.arange(12), np.arange(12, 72)]
    made, triangles = graded_points(flat, loops, NOTHING)
    every = np.concatenate([flat, made])
    assert smallest_angle(every, triangles) > 20
    assert np.array_equal(triangles, triangulate_polygon(flat, loops, made))
    near = np.linalg.norm(made, axis=1) < 0.7
    assert near.sum() > 0.3 * len(made)


def test_points_near_long_edges_go_but_held_ones_stay() -> None:
    square = np.array([[0.0, 0], [1, 0], [1, 1], [0, 1]])
    inner = np.array([[0.5, 0.02], [0.4, 0.03], [0.5, 0.5]])
    kept, _ = graded_points(square, [np.arange(4)], inner, 1)
    assert np.array_equal(kept[0], inner[0])
    assert not (np.linalg.norm(kept - inner[1], axis=1) < 1e-12).any()
