"""How far points move so that faces or borders keep a distance."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.geometry import measure
from reticula.core.geometry.planar.crossing_limits import crossing_limits
from reticula.core.geometry.remesh.offsets import corner_insets, even_offsets


def test_the_faces_of_a_box_all_move_by_the_distance() -> None:
    box = ops.box(size=(2, 2, 2))
    start, corner = box.topology.point_corners
    faces = box.topology.corner_face[corner]
    moves = even_offsets(start, faces, measure.face_normals(box), measure.area_vectors(box), np.full(len(faces), 0.25))
    assert np.allclose(box.positions + moves, box.positions * 1.25)


def test_edges_move_inwards_by_a_metre() -> None:
    square = Geo.from_faces([[0, 0, 0], [6, 0, 0], [6, 6, 0], [0, 6, 0]], [[0, 1, 2, 3]])
    shape = square.topology
    moves = corner_insets(square.positions, shape.face_start, shape.corner_point, measure.face_normals(square))
    assert np.allclose(square.positions[shape.corner_point] + moves, [[1, 1, 0], [5, 1, 0], [5, 5, 0], [1, 5, 0]])


@pytest.mark.parametrize("degrees", [1.0, 5.0, 11.0, 90.0, 179.0])
def test_corners_of_any_angle_keep_the_distance(degrees: float) -> None:
    turn = np.radians(degrees)
    wedge = Geo.from_faces([[0, 0, 0], [1, 0, 0], [np.cos(turn), np.sin(turn), 0]], [[0, 1, 2]])
    shape = wedge.topology
    move = corner_insets(wedge.positions, shape.face_start, shape.corner_point, measure.face_normals(wedge))[0]
    assert move[1] == pytest.approx(1)
    assert np.cross([np.cos(turn), np.sin(turn), 0], move)[2] == pytest.approx(-1)


def test_the_limit_is_where_the_first_edge_is_gone() -> None:
    long = Geo.from_faces([[0, 0, 0], [6, 0, 0], [6, 2, 0], [0, 2, 0]], [[0, 1, 2, 3]])
    shape, normals = long.topology, measure.face_normals(long)
    moves = corner_insets(long.positions, shape.face_start, shape.corner_point, normals)
    at = long.positions[shape.corner_point]
    assert np.allclose(crossing_limits(at, moves, shape.face_start, normals, np.array([True])), 1)
