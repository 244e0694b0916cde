"""Who touches whom: against plain dictionaries and SciPy's components."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.sparse import coo_matrix
from scipy.sparse.csgraph import connected_components

from reticula.core import Geo, ops
from reticula.core.geometry.mesh.adjacency import group_by, label_components


@given(st.lists(st.integers(0, 9), max_size=60))
def test_grouping_keeps_the_order_within_a_key(keys: list[int]) -> None:
    start, order = group_by(np.array(keys, np.int32), 10)
    for key in range(10):
        assert order[start[key] : start[key + 1]].tolist() == [i for i, one in enumerate(keys) if one == key]


@given(st.integers(1, 30), st.lists(st.tuples(st.integers(0, 29), st.integers(0, 29)), max_size=40))
def test_components_are_those_that_scipy_finds(count: int, pairs: list[tuple[int, int]]) -> None:
    inside = np.array([pair for pair in pairs if max(pair) < count], np.int32).reshape(-1, 2)
    labels = label_components(count, inside, np.ones(count, bool))
    matrix = coo_matrix((np.ones(len(inside)), (inside[:, 0], inside[:, 1])), (count, count))
    number, expected = connected_components(matrix, directed=False)
    assert len(np.unique(labels)) == number
    assert len({*zip(labels.tolist(), expected.tolist(), strict=True)}) == number


@pytest.mark.parametrize("make", [ops.box, lambda: ops.grid(cells=(3, 4)), ops.geodesic_sphere])
def test_edges_and_neighbours_are_those_of_a_plain_count(make) -> None:  # type: ignore[no-untyped-def]
    shape = make().topology
    faces = [shape.corner_point[a:b].tolist() for a, b in zip(shape.face_start, shape.face_start[1:], strict=False)]
    sides: dict[frozenset[int], list[int]] = {}
    for number, face in enumerate(faces):
        for a, b in zip(face, face[1:] + face[:1], strict=True):
            sides.setdefault(frozenset((a, b)), []).append(number)
    assert {frozenset(edge) for edge in shape.edges.tolist()} == set(sides)
    assert shape.edge_face_count.tolist() == [len(sides[frozenset(edge)]) for edge in shape.edges.tolist()]
    start, neighbour = shape.face_neighbours
    for number in range(len(faces)):
        beside = sorted(other for side in sides.values() if number in side for other in side if other != number)
        assert sorted(neighbour[start[number] : start[number + 1]].tolist()) == beside


def test_no_corner_lies_across_where_faces_wind_against_each_other() -> None:
    alike = Geo.from_faces(np.eye(4)[:, :3], [[0, 1, 2], [2, 1, 3]])
    against = Geo.from_faces(np.eye(4)[:, :3], [[0, 1, 2], [1, 2, 3]])
    assert (alike.topology.corner_across >= 0).sum() == 2
    assert (against.topology.corner_across >= 0).sum() == 0
