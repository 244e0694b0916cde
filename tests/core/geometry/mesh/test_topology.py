"""Topology: edges, neighbours, borders, pieces."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import Geo, ops
from reticula.core.errors import GeometryError
from reticula.core.geometry import Topology


def test_counts_and_edges_of_mixed_polygons(mixed: Geo) -> None:
    assert mixed.counts == {"points": 9, "edges": 10, "corners": 12, "faces": 3, "curves": 2, "instances": 0}
    shape = mixed.topology
    assert shape.edges[:4].tolist() == [[0, 1], [1, 2], [2, 3], [3, 0]]
    assert shape.edges[shape.corner_edge[8]].tolist() == [1, 2]
    assert shape.border_edges.sum() == 8
    assert shape.used_points.tolist() == [True] * 8 + [False]


def test_neighbours(mixed: Geo) -> None:
    start, faces = mixed.topology.face_neighbours
    assert [sorted(faces[a:b].tolist()) for a, b in zip(start[:-1], start[1:], strict=True)] == [[1, 2], [0], [0]]
    start, corners = mixed.topology.point_corners
    assert sorted(mixed.topology.corner_face[corners[start[2] : start[3]]].tolist()) == [0, 1, 2]


def test_curve_segments_close_closed_curves_only(mixed: Geo) -> None:
    pairs, owner = mixed.topology.curve_segments
    assert pairs.tolist() == [[0, 1], [1, 4], [3, 7], [7, 2], [2, 3]]
    assert owner.tolist() == [0, 0, 1, 1, 1]


def test_pieces_are_numbered_by_first_point() -> None:
    two = ops.join(ops.grid(cells=(2, 2)), ops.box())
    assert np.unique(two.topology.point_piece).tolist() == [0, 1]
    assert two.topology.point_piece[0] == 0


@pytest.mark.parametrize(
    ("arguments", "message"),
    [
        ((3, [0, 2], [0, 1]), "face 0 has 2 points"),
        ((3, [0, 3], [0, 1, 7]), "face 0 uses point 7, but there are only 3"),
        ((3, [0, 4], [0, 1, 2]), "do not cover"),
        ((3, [0], [], [0, 1], [0]), "curve 0 has 1 points"),
    ],
)
def test_impossible_topology_is_refused_with_the_place(arguments: tuple, message: str) -> None:
    with pytest.raises(GeometryError, match=message):
        Topology(*arguments)


def test_non_manifold_edge_is_seen() -> None:
    fan = Geo.from_faces(np.eye(5, 3), [[0, 1, 2], [0, 1, 3], [0, 1, 4]])
    assert fan.topology.edge_face_count.max() == 3


def test_memo_computes_once_and_forgets_the_oldest() -> None:
    shape = Topology(1)
    made: list[int] = []
    for key in [0, 0, *range(1, 8), 0]:
        shape.memoise(key, lambda key=key: made.append(key))
    assert made == [0, 1, 2, 3, 4, 5, 6, 7, 0]


@given(st.integers(1, 6), st.integers(1, 6), st.integers(0, 2**32 - 1))
def test_edges_agree_with_a_set_of_pairs(rows: int, columns: int, seed: int) -> None:
    """Against plain Python: every unordered pair of neighbouring corners is one edge, in order of appearance."""
    grid = ops.grid(cells=(rows, columns))
    order = np.random.default_rng(seed).permutation(grid.topology.point_count)
    faces = order[grid.topology.corner_point].reshape(-1, 4)
    shape = Geo.from_faces(grid.positions, faces).topology
    seen: dict[frozenset[int], int] = {}
    for face in faces.tolist():
        for a, b in zip(face, face[1:] + face[:1], strict=True):
            seen.setdefault(frozenset((a, b)), len(seen))
    assert [frozenset(edge) for edge in shape.edges.tolist()] == list(seen)
