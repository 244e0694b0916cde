"""Lines in which two meshes cross."""

import numpy as np
import pytest

from reticula.core import ops
from reticula.core.spatial import surface_of
from reticula.core.spatial.crossings import crossing_segments


def test_two_sheets_cross_in_one_line() -> None:
    flat = ops.grid(size=(2, 2), cells=(5, 5))
    upright = ops.transform(ops.grid(size=(2, 2), cells=(4, 4)), turn=(90, 0, 0), move=(0, 0.1, 0.137))
    corners = flat.positions[surface_of(flat).point]
    triangle, segments = crossing_segments(corners, upright)
    lengths = np.linalg.norm(segments[:, 1] - segments[:, 0], axis=1)
    assert lengths.sum() == pytest.approx(2.0)
    assert np.allclose(segments[:, :, 1], 0)
    assert np.allclose(segments[:, :, 2], 0.137)
    assert set(triangle.tolist()) <= set(range(len(corners)))


def test_sheets_apart_or_in_one_plane_do_not_cross() -> None:
    flat = ops.grid(cells=(3, 3))
    corners = flat.positions[surface_of(flat).point]
    assert len(crossing_segments(corners, ops.transform(flat, move=(0, 0.01, 0)))[0]) == 0
    assert len(crossing_segments(corners, flat)[0]) == 0
