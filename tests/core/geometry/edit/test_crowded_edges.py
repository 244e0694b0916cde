"""Faces parted at edges of more than two faces, and at pinched points."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.geometry.edit.crowded_edges import pair_corners
from reticula.core.geometry.edit.split_points import split_between_fans
from reticula.core.geometry.measure.components import face_components
from tests.helpers import is_closed, volume


@pytest.mark.parametrize(("move", "added"), [((1, 1, 0), 2), ((1, 1, 1), 1)])
def test_blocks_that_touch_become_two(move: tuple[float, ...], added: int) -> None:
    blocks = ops.weld(ops.join(ops.box(), ops.transform(ops.box(), move=move)), radius=1e-6)
    made, count = split_between_fans(blocks, pair_corners(blocks))
    assert count == added
    assert is_closed(made)
    assert (made.topology.edge_face_count == 2).all()
    assert len(np.unique(face_components(made))) == 2
    assert volume(made) == pytest.approx(2)


def test_faces_of_a_block_stay_together_however_it_is_turned() -> None:
    blocks = ops.weld(ops.join(ops.box(), ops.transform(ops.box(), move=(1, 1, 0))))
    turned = ops.transform(blocks, turn=(20, 50, 70))
    partner = pair_corners(turned)
    face = turned.topology.corner_face
    assert (partner >= 0).all()
    assert (face[partner] // 6 == face // 6).all()


def test_a_fin_finds_no_partner() -> None:
    box = ops.box()
    edge = box.topology.edges[0]
    points = np.concatenate([box.positions, box.positions[edge] * 2])
    faces = [*map(list, box.topology.corner_point.reshape(-1, 4)), [edge[0], edge[1], 9, 8]]
    with_fin = Geo.from_faces(points, faces)
    partner = pair_corners(with_fin)
    assert np.flatnonzero(partner < 0).tolist() == [24, 25, 26, 27]
    made, count = split_between_fans(with_fin, partner)
    assert count == 2
    assert made.topology.edge_face_count.max() == 2


def test_what_is_in_order_stays() -> None:
    ball = ops.sphere()
    assert split_between_fans(ball, pair_corners(ball)) == (ball, 0)
