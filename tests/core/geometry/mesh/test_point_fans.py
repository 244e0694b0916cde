"""Faces around a point in the order in which they stand."""

import numpy as np

from reticula.core import Geo, ops


def test_neighbours_in_a_fan_share_an_edge() -> None:
    geo = ops.geodesic_sphere(frequency=3)
    shape, fans = geo.topology, geo.topology.point_fans
    assert fans.closed.all()
    assert not fans.border.any()
    for p in range(shape.point_count):
        ring = fans.corner[fans.start[p] : fans.start[p + 1]]
        assert (shape.corner_point[ring] == p).all()
        faces = shape.corner_face[ring]
        for a, b in zip(faces, np.roll(faces, -1), strict=True):
            assert len({*shape.corner_point[3 * a : 3 * a + 3]} & {*shape.corner_point[3 * b : 3 * b + 3]}) == 2


def test_a_fan_at_a_border_begins_and_ends_there() -> None:
    fans = ops.grid(cells=(2, 2)).topology.point_fans
    assert fans.closed.sum() == 1
    assert fans.border.sum() == 8
    assert np.diff(fans.start).tolist() == [1, 2, 1, 2, 4, 2, 1, 2, 1]


def test_a_pinched_point_has_no_fan() -> None:
    bow = Geo.from_faces([[0, 0, 0], [1, 0, 0], [0, 1, 0], [-1, 0, 0], [0, -1, 0]], [[0, 1, 2], [0, 3, 4]])
    assert np.diff(bow.topology.point_fans.start)[0] == 0
