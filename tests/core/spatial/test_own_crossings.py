"""Where faces of one mesh cross each other or lie on each other."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.spatial.own_crossings import own_crossing_segments


def found(geo: Geo) -> tuple[np.ndarray, np.ndarray]:
    point = geo.topology.corner_point.reshape(-1, 3)
    return own_crossing_segments(geo, geo.positions[point], point, 1.0)


def test_two_triangles_cross_in_a_segment_for_both() -> None:
    flat = [[-1, -1, 0], [1, -1, 0], [0, 2, 0]]
    upright = [[-1, 0, -1], [1, 0, -1], [0, 0, 1]]
    owner, ends = found(Geo.from_faces([*flat, *upright], [[0, 1, 2], [3, 4, 5]]))
    assert sorted(owner.tolist()) == [0, 1]
    for segment in ends:
        assert sorted(segment[:, 0]) == pytest.approx([-0.5, 0.5])
        assert segment[:, 1:] == pytest.approx(0)


def test_neighbours_do_not_cross() -> None:
    for geo in (ops.sphere(), ops.grid(cells=(5, 5))):
        assert not len(found(ops.triangulate(geo))[0])


def test_sides_of_what_lies_on_it() -> None:
    geo = Geo.from_faces([[0, 0, 0], [4, 0, 0], [0, 4, 0], [1, 1, 0], [3, 1, 0], [1, 3, 0]], [[0, 1, 2], [3, 4, 5]])
    owner, ends = found(geo)
    inside = ends[owner == 0]
    assert np.linalg.norm(inside[:, 1] - inside[:, 0], axis=1).sum() == pytest.approx(2 + 2 + 8**0.5)
    assert not len(ends[owner == 1]) or np.allclose(np.linalg.norm(np.diff(ends[owner == 1], axis=1), axis=2), 8**0.5)
