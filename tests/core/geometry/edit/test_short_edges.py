"""Short edges drawn together: what is fixed stays, what has no area goes, and a closed mesh stays closed."""

import numpy as np

from reticula.core import Geo, ops
from reticula.core.geometry import Topology
from reticula.core.geometry.edit.short_edges import without_short_edges


def strip(width: float) -> Geo:
    """Two quads with one of ``width`` between them."""
    x = [0.0, 1.0, 1.0 + width, 2.0]
    positions = [[a, 0, 0] for a in x] + [[a, 1, 0] for a in x]
    return Geo.of(positions, Topology(8, [0, 4, 8, 12], [0, 1, 5, 4, 1, 2, 6, 5, 2, 3, 7, 6]))


def test_a_sliver_goes_and_its_neighbours_meet() -> None:
    made = without_short_edges(strip(1e-7), np.zeros(8, bool), 1e-6)
    assert made.topology.face_count == 2
    assert made.topology.point_count == 6
    assert int(made.topology.border_edges.sum()) == 6
    whole = strip(1e-3)
    assert without_short_edges(whole, np.zeros(8, bool), 1e-6) is whole


def test_fixed_points_stay_where_they_are_and_are_never_joined() -> None:
    fixed = np.zeros(8, bool)
    fixed[[2, 6]] = True
    made = without_short_edges(strip(1e-7), fixed, 1e-6)
    assert sorted(set(made.positions[:, 0])) == [0.0, 1.0 + 1e-7, 2.0]
    fixed[[1, 5]] = True
    assert without_short_edges(strip(1e-7), fixed, 1e-6).topology.face_count == 3


def test_what_shrinks_to_a_point_leaves_none_behind() -> None:
    far = ops.join(ops.box(), ops.box(size=(1e-8, 1e-8, 1e-8)))
    made = without_short_edges(far, np.zeros(16, bool), 1e-6)
    assert made.topology.point_count == 8
    assert made.topology.face_count == 6
    assert not made.topology.border_edges.any()
