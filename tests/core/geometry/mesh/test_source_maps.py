"""Source maps: weights against plain sums, and maps of edges."""

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import ops
from reticula.core.geometry import Attribute, SourceMap, Weights, edge_sources, edges_along, kept


@given(st.integers(1, 20), st.integers(1, 4), st.integers(0, 2**31))
def test_weights_are_a_matrix(rows: int, width: int, seed: int) -> None:
    rng = np.random.default_rng(seed)
    column, value = rng.integers(0, 9, (rows, 3)), rng.normal(size=(rows, 3))
    dense = np.zeros((rows, 9))
    for k in range(3):
        np.add.at(dense, (np.arange(rows), column[:, k]), value[:, k])
    source = rng.normal(size=(9, width))
    assert np.allclose(Weights.rows(column, value).apply(source), dense @ source, rtol=1e-12, atol=1e-12)


def test_pairs_of_one_source_are_that_source_to_the_bit() -> None:
    value = np.array([0.1, 0.7, 0.3])
    made = Weights.pairs(np.array([0, 1, 2]), np.array([0, 2, 2]), np.array([0.4, 0.0, 0.5])).apply(value)
    assert made.tolist() == [0.1, 0.7, 0.3]


def test_means_of_rows() -> None:
    made = Weights.means(np.array([0, 2, 2, 3]), np.array([0, 1, 2])).apply(np.array([1.0, 3.0, 8.0]))
    assert made.tolist() == [2.0, 0.0, 8.0]


def test_directions_keep_length_one_and_text_comes_from_the_main_source() -> None:
    entry = SourceMap(np.array([1], np.int32), Weights.rows(np.array([[0, 1]]), np.array([[0.5, 0.5]])))
    normal = entry.attribute("normal", Attribute.of(np.array([[1.0, 0, 0], [0, 1.0, 0]])))
    assert np.allclose(normal.values, [[np.sqrt(0.5), np.sqrt(0.5), 0]])
    assert entry.attribute("name", Attribute.of(np.array(["a", "b"]))).values.tolist() == ["b"]


def test_edges_come_from_the_edge_between_the_sources_of_their_ends() -> None:
    shape = ops.grid(cells=(2, 2)).topology
    assert edge_sources(shape, shape, np.arange(shape.point_count, dtype=np.int32))().index.tolist() == list(range(12))
    gone = np.full(shape.point_count, -1, np.int32)
    assert (edge_sources(shape, shape, gone)().index == -1).all()


def test_edges_along_take_the_old_edge_that_a_corner_names() -> None:
    shape = ops.grid(cells=(1, 1)).topology
    named = edges_along(shape, np.array([7, -1, 5, 4]))().index
    assert named[shape.corner_edge].tolist() == [7, -1, 5, 4]
    assert kept(np.array([2, -1])).index.dtype == np.int32
