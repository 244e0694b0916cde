"""How far points move so that faces or borders keep a distance."""

import numpy as np

from reticula.core import Geo, ops
from reticula.core.geometry import measure
from reticula.core.geometry.remesh.offsets import corner_insets, even_offsets, inset_limits


def test_the_faces_of_a_box_all_move_by_the_distance() -> None:
    box = ops.box(size=(2, 2, 2))
    start, corner = box.topology.point_corners
    faces = box.topology.corner_face[corner]
    moves = even_offsets(start, faces, measure.face_normals(box), np.ones(6), np.full(len(faces), 0.25))
    assert np.allclose(box.positions + moves, box.positions * 1.25)


def test_edges_move_inwards_by_a_metre() -> None:
    square = Geo.from_faces([[0, 0, 0], [6, 0, 0], [6, 6, 0], [0, 6, 0]], [[0, 1, 2, 3]])
    shape = square.topology
    moves = corner_insets(square.positions, shape.face_start, shape.corner_point, measure.face_normals(square))
    assert np.allclose(square.positions[shape.corner_point] + moves, [[1, 1, 0], [5, 1, 0], [5, 5, 0], [1, 5, 0]])


def test_the_limit_is_where_the_first_edge_is_gone() -> None:
    long = Geo.from_faces([[0, 0, 0], [6, 0, 0], [6, 2, 0], [0, 2, 0]], [[0, 1, 2, 3]])
    shape = long.topology
    moves = corner_insets(long.positions, shape.face_start, shape.corner_point, measure.face_normals(long))
    assert np.allclose(inset_limits(long.positions, shape.face_start, shape.corner_point, moves), 1)
