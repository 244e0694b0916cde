"""A heap whose entries can be moved and taken out."""

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from reticula.core.geometry.remesh.edge_heap import is_in_heap, make_heap, move_in_heap, remove_from_heap


@given(st.lists(st.integers(0, 50), min_size=1, max_size=40), st.data())
def test_the_cheapest_is_always_on_top(costs: list[int], data: st.DataObject) -> None:
    cost = np.array(costs, float)
    edges = make_heap(cost)
    left = set(range(len(costs)))
    while left:
        assert cost[edges.heap[0]] == min(cost[list(left)])
        edge = data.draw(st.sampled_from(sorted(left)))
        if data.draw(st.booleans()):
            cost[edge] = data.draw(st.integers(0, 50))
            move_in_heap(edges, edge)
        else:
            remove_from_heap(edges, edge)
            left.discard(edge)
        assert {edge for edge in range(len(costs)) if is_in_heap(edges, edge)} == left
