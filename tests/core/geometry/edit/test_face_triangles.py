"""Faces cut into triangles where they stood."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.geometry import measure
from reticula.core.geometry.edit.face_triangles import triangulate_faces


def test_chosen_faces_become_triangles_where_they_stood() -> None:
    geo = ops.grid(cells=(3, 1))
    made = triangulate_faces(geo, np.array([False, True, False]))
    assert made.topology.face_size.tolist() == [4, 3, 3, 4]
    assert made.sources["face"].index.tolist() == [0, 1, 1, 2]


@pytest.mark.parametrize("chosen", [[0, 1, 2], [0, 2], [1], []])
def test_values_of_corners_and_edges_stay_where_they_were(chosen: list[int]) -> None:
    places = [[0, 0, 0], [2, 0, 0], [3, 1, 0], [1, 2, 0], [0, 1, 0], [4, 0, 0], [4, 3, 0]]
    geo = Geo.from_faces(places, [[0, 1, 2, 3, 4], [1, 5, 2], [2, 5, 6, 3]])
    geo = geo.with_attribute("corner", "own", np.arange(12.0)).with_attribute(
        "edge", "length", measure.edge_lengths(geo)
    )
    made = triangulate_faces(geo, np.isin(np.arange(3), chosen))
    first = np.array(made.attribute("corner", "own"), int)
    assert np.array_equal(geo.topology.corner_point[first], made.topology.corner_point)
    length, kept = measure.edge_lengths(made), np.array(made.attribute("edge", "length"))
    assert np.array_equal(kept[kept > 0], length[kept > 0])
    assert (kept > 0).sum() == geo.topology.edge_count
    assert measure.face_areas(made).sum() == pytest.approx(measure.face_areas(geo).sum())
