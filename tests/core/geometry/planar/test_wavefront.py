"""Polygons whose edges move inwards: how far until nothing is left."""

import numpy as np
import pytest

from reticula.core.geometry.planar.wavefront import NODES, VERTICES, move_inwards, new_wave, position
from reticula.core.jit import kernel


@kernel
def followed(flat, far):  # type: ignore[no-untyped-def]
    """How far a polygon comes, and the corners it has then."""
    wave = new_wave(flat, np.zeros(len(flat)))
    came = move_inwards(wave, far)
    places = np.empty((wave.used[VERTICES], 2))
    alive = 0
    for v in range(wave.used[VERTICES]):
        if wave.alive[v]:
            places[alive, 0], places[alive, 1] = position(wave, v, came)
            alive += 1
    return came, places[:alive], wave.used[NODES]


def polygon(*corners: tuple[float, float]) -> np.ndarray:
    return np.array(corners, float)


@pytest.mark.parametrize(
    ("shape", "inner"),
    [
        (polygon((0, 0), (2, 0), (2, 2), (0, 2)), 1.0),
        (polygon((0, 0), (5, 0), (5, 2), (0, 2)), 1.0),
        (polygon((0, 0), (4, 0), (0, 3)), 1.0),
        (polygon((0, 0), (2, 0), (2, 1), (1, 1), (1, 2), (0, 2)), 0.5),
        (polygon((1, 0), (2, 0), (2, 1), (3, 1), (3, 2), (2, 2), (2, 3), (1, 3), (1, 2), (0, 2), (0, 1), (1, 1)), 0.5),
    ],
)
def test_ends_at_the_radius_of_the_largest_circle_inside(shape: np.ndarray, inner: float) -> None:
    came, left, _ = followed(shape, np.inf)
    assert came == pytest.approx(inner)
    assert not len(left)


def test_stops_where_it_is_told() -> None:
    came, left, nodes = followed(polygon((0, 0), (5, 0), (5, 2), (0, 2)), 0.5)
    assert came == 0.5
    assert {(round(x, 9), round(y, 9)) for x, y in left} == {(0.5, 0.5), (4.5, 0.5), (4.5, 1.5), (0.5, 1.5)}
    assert nodes == 4, "nothing has happened yet"


def test_edges_without_length_are_left_out() -> None:
    came, _, _ = followed(polygon((0, 0), (0, 0), (2, 0), (2, 2), (2, 2), (0, 2)), np.inf)
    assert came == pytest.approx(1)
