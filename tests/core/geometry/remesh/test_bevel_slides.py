"""How points slide along edges, on a cube where it is known by hand."""

import numpy as np
import pytest

from reticula.core import ops
from reticula.core.geometry import measure
from reticula.core.geometry.remesh.bevel_slides import inner_shares, slide_rates
from reticula.core.geometry.remesh.offsets import corner_insets

BOX = ops.box(size=(2, 2, 2))
SHAPE = BOX.topology
INSETS = corner_insets(BOX.positions, SHAPE.face_start, SHAPE.corner_point, measure.face_normals(BOX))
NO_POINTS = np.zeros(SHAPE.point_count, bool)


def test_one_edge_of_a_cube_goes_along_its_neighbours() -> None:
    cut = np.zeros(SHAPE.edge_count, bool)
    cut[0] = True
    slide, shrink = slide_rates(SHAPE, BOX.positions, cut, NO_POINTS, INSETS)
    beside = np.isin(SHAPE.edges, SHAPE.edges[0]) & ~cut[:, None]
    assert np.allclose(slide.reshape(-1, 2)[beside], 1.0), "at right angles, by as much as the width"
    assert not slide.reshape(-1, 2)[~beside].any()
    assert np.allclose(shrink.reshape(-1, 2)[0], 0.0), "the edge itself stays as long"


def test_all_edges_of_a_cube_shrink_at_both_ends() -> None:
    slide, shrink = slide_rates(SHAPE, BOX.positions, np.ones(SHAPE.edge_count, bool), NO_POINTS, INSETS)
    assert np.allclose(shrink, 1.0)
    assert np.allclose(slide, 1.0)


def test_points_in_faces_blend_their_corner_with_those_beside_it() -> None:
    inner = np.arange(SHAPE.corner_count, dtype=np.int32)
    share = inner_shares(SHAPE, BOX.positions, inner, INSETS * 0.5)
    assert share == pytest.approx(np.tile([0.5, 0.25, 0.25], (len(inner), 1)))
    three = np.stack([inner, SHAPE.corner_next, SHAPE.corner_previous], axis=1)
    blended = np.einsum("nk,nki->ni", share, BOX.positions[SHAPE.corner_point[three]])
    assert blended == pytest.approx(BOX.positions[SHAPE.corner_point] + INSETS * 0.5)
