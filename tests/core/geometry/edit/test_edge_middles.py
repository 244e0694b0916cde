"""Crowded edges whose ends stay: each pair of faces but the first goes through a point of its own."""

import numpy as np

from reticula.core import Geo
from reticula.core.geometry import Topology
from reticula.core.geometry.edit.crowded_edges import pair_corners
from reticula.core.geometry.edit.edge_middles import with_middles

PLACES = [[0, 0, 0], [0, 1, 0], [1, 0, 0.1], [1, 0, -0.1], [-1, 0, 0.1], [-1, 0, -0.1]]


def wedges() -> Geo:
    """Two wedges, one to either side, that touch along the edge from point 0 to 1."""
    faces = [[0, 1, 3], [1, 0, 2], [1, 0, 5], [0, 1, 4]]
    geo = Geo.of(PLACES, Topology(6, np.arange(0, 13, 3), np.concatenate(faces)))
    geo = geo.with_attribute("point", "heat", np.arange(6.0))
    return geo.with_attribute("corner", "uv", np.arange(24.0).reshape(12, 2))


def test_a_touching_edge_is_parted_between_its_ends() -> None:
    geo = wedges()
    partner = pair_corners(geo)
    assert (partner[geo.topology.corner_edge == geo.topology.corner_edge[0]] >= 0).all()
    made, added = with_middles(geo, partner)
    assert added == 1
    assert made.positions[6].tolist() == [0, 0.5, 0]
    assert made.attribute("point", "heat")[6] == 0.5
    assert made.topology.edge_face_count.max() == 2
    assert sorted(made.topology.face_size.tolist()) == [3, 3, 4, 4]
    assert made.topology.face_count == 4
    four = np.flatnonzero(made.topology.face_size == 4)[0]
    corners = slice(made.topology.face_start[four], made.topology.face_start[four + 1])
    assert 6 in made.topology.corner_point[corners]
    uv = made.attribute("corner", "uv")[corners]
    at = made.topology.corner_point[corners].tolist().index(6)
    assert (uv[at] == 0.5 * (uv[at - 1] + uv[(at + 1) % 4])).all()


def test_what_is_in_order_stays() -> None:
    geo = Geo.of(PLACES[:3], Topology(3, [0, 3], [0, 1, 2]))
    made, added = with_middles(geo, pair_corners(geo))
    assert made is geo
    assert added == 0
