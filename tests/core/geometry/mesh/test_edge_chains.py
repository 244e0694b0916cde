"""Edges put end to end."""

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from reticula.core.geometry.mesh.edge_chains import edge_chains


def test_chains_end_at_branches_and_loops_close() -> None:
    chains = edge_chains([[0, 1], [1, 2], [2, 3], [2, 4], [5, 6], [6, 7], [7, 5]], 8)
    rows = [chains.point[a:b].tolist() for a, b in zip(chains.start, chains.start[1:], strict=False)]
    assert rows == [[0, 1, 2], [2, 3], [2, 4], [5, 6, 7]]
    assert chains.closed.tolist() == [False, False, False, True]


def test_a_marked_point_ends_a_chain() -> None:
    stops = np.array([False, True, False])
    assert np.diff(edge_chains([[0, 1], [1, 2]], 3, stops).start).tolist() == [2, 2]


@given(st.lists(st.tuples(st.integers(0, 9), st.integers(0, 9)), max_size=18))
def test_every_edge_is_in_one_chain(pairs: list[tuple[int, int]]) -> None:
    edges = sorted({tuple(sorted(pair)) for pair in pairs if pair[0] != pair[1]})
    chains = edge_chains(np.array(edges).reshape(-1, 2), 10)
    walked = []
    for row, closed in enumerate(chains.closed):
        points = chains.point[chains.start[row] : chains.start[row + 1]].tolist()
        walked += [tuple(sorted(side)) for side in zip(points, points[1:], strict=False)]
        walked += [tuple(sorted((points[-1], points[0])))] if closed else []
    assert sorted(walked) == [tuple(sorted(edge)) for edge in edges]
