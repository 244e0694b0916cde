"""Parts of a geometry."""

import numpy as np
import pytest

from reticula.core import Geo
from reticula.core.geometry import Topology
from reticula.core.geometry.edit.subset import any_of_row, subset
from tests.helpers import bumpy


def test_marked_faces_keep_their_values_and_order(mixed: Geo) -> None:
    full = mixed.with_attribute("face", "n", np.arange(3)).with_attribute("corner", "c", np.arange(12))
    made = subset(full, np.array([False, True, True]))
    assert made.attribute("face", "n").tolist() == [1, 2]
    assert made.attribute("corner", "c").tolist() == list(range(4, 12))
    assert np.array_equal(made.identity("face"), full.identity("face")[1:])


def test_loose_points_stay_and_those_that_lose_their_face_go(mixed: Geo) -> None:
    nothing = np.zeros(3, bool), np.zeros(2, bool)
    assert subset(mixed, *nothing).counts["points"] == 1
    assert subset(mixed, *nothing, loose=False).counts["points"] == 0
    assert subset(mixed, *nothing, leftovers=True).counts["points"] == 9


@pytest.mark.parametrize("seed", range(6))
def test_edges_of_a_part_are_those_that_would_be_found(seed: int) -> None:
    """Balls, and random triangles, many of which meet at an edge and wind against each other."""
    rng = np.random.default_rng(seed)
    triangles = np.array([rng.permutation(9)[:3] for _ in range(60)])
    ball = bumpy(seed) if seed % 2 else Geo.from_faces(rng.random((9, 3)), triangles)
    marked = ball.with_attribute("edge", "n", np.arange(ball.topology.edge_count))
    made = subset(marked, rng.random(ball.topology.face_count) < 0.6)
    shape = made.topology
    fresh = Topology(shape.point_count, shape.face_start, shape.corner_point)
    assert shape.edges.tolist() == fresh.edges.tolist()
    assert shape.corner_edge.tolist() == fresh.corner_edge.tolist()
    ends = np.sort(ball.positions[ball.topology.edges[made.attribute("edge", "n")]], axis=1)
    assert ends.tolist() == np.sort(made.positions[shape.edges], axis=1).tolist()


def test_rows_with_any_flag() -> None:
    assert any_of_row(np.array([0, 2, 3]), np.array([False, True, False])).tolist() == [True, False]
