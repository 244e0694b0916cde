"""Closed loops of borders and of loose segments."""

import numpy as np

from reticula.core import Geo, ops
from reticula.core.geometry.planar.boundary_loops import border_loops, loop_normals, segment_loops


def test_a_tube_has_two_borders_that_run_as_its_faces_do() -> None:
    shape = ops.cylinder(segments=8, caps=False).topology
    start, corner = border_loops(shape)
    assert np.diff(start).tolist() == [8, 8]
    assert shape.border_edges[shape.corner_edge[corner]].all()
    follows = np.roll(shape.corner_point[corner[:8]], -1) == shape.corner_point[shape.corner_next[corner[:8]]]
    assert follows.all()


def test_borders_that_meet_in_a_point_are_two_loops() -> None:
    bow = Geo.from_faces([[0, 0, 0], [1, 0, 0], [0, 1, 0], [-1, 0, 0], [0, -1, 0]], [[0, 1, 2], [0, 3, 4]])
    start, _ = border_loops(bow.topology)
    assert np.diff(start).tolist() == [3, 3]


def test_segments_are_put_end_to_end_and_leftovers_counted() -> None:
    tail, head = np.array([0, 2, 1, 5, 6]), np.array([1, 0, 2, 6, 7])
    start, item, left = segment_loops(tail, head, 8)
    assert tail[item].tolist() == [0, 1, 2]
    assert start.tolist() == [0, 3]
    assert left == 2


def test_loops_that_share_a_point_are_told_apart_and_dead_ends_left_out() -> None:
    bow = np.array([[0, 1], [1, 2], [2, 3], [3, 1], [2, 0], [3, 9]])
    start, item, left = segment_loops(bow[:, 0], bow[:, 1], 10)
    loops = [bow[item[a:b], 0].tolist() for a, b in zip(start, start[1:], strict=False)]
    assert loops == [[1, 2, 3]], "the walk meets itself in 1 before it comes back to 0"
    assert left == 3
    eight = np.array([[0, 1], [1, 2], [2, 0], [0, 3], [3, 4], [4, 0]])
    start, item, left = segment_loops(eight[:, 0], eight[:, 1], 5)
    assert np.diff(start).tolist() == [3, 3]
    assert left == 0


def test_a_loop_looks_to_where_it_runs_counter_clockwise() -> None:
    square = np.array([[0.0, 0, 0], [2, 0, 0], [2, 3, 0], [0, 3, 0]])
    normals = loop_normals(square, np.array([0, 4, 8]), np.array([0, 1, 2, 3, 3, 2, 1, 0]))
    assert normals.tolist() == [[0, 0, 6], [0, 0, -6]]
