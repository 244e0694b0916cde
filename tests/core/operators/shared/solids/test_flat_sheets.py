"""Flat sheets: what counts as flat, whose faces count where several lie, and which way they look."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import collecting
from reticula.core.geometry import measure
from reticula.core.operators.shared.solids.flat_sheets import flat_normal, flat_sheets

SHEET = ops.grid(cells=(2, 2))
UP = np.array([0.0, 1.0, 0.0])


def put_together(*parts: Geo, operation: str = "union") -> tuple[Geo, np.ndarray]:
    with collecting():
        return flat_sheets(parts, UP, operation)


@pytest.mark.parametrize(
    ("other", "flat"),
    [
        (ops.disc(), True),
        (ops.transform(ops.disc(), move=(9, 0, 0)), True),
        (ops.reverse(ops.disc()), True),
        (ops.transform(ops.disc(), move=(0, 1e-6, 0)), False),
        (ops.transform(ops.disc(), turn=(1, 0, 0)), False),
        (ops.box(), False),
    ],
)
def test_what_is_flat(other: Geo, flat: bool) -> None:
    assert (flat_normal([SHEET, other]) is not None) == flat


def test_where_several_lie_the_first_one_counts() -> None:
    _, source = put_together(SHEET, ops.grid(cells=(1, 1)))
    assert source.tolist() == [0, 1, 2, 3]
    made, source = put_together(ops.grid(size=(0.5, 0.5), cells=(1, 1)), SHEET)
    assert source.tolist() == [0, 1, 2, 3, 4]
    assert measure.face_areas(made)[0] == pytest.approx(0.25)
    assert measure.face_areas(made)[1:] == pytest.approx([0.1875] * 4)
    assert made.topology.face_size.tolist() == [8, 6, 6, 6, 6], "cut faces stay polygons, and share their points"


def test_a_hole_in_the_middle_of_a_face_makes_triangles() -> None:
    made, _ = put_together(ops.grid(cells=(1, 1)), ops.grid(size=(0.5, 0.5), cells=(1, 1)), operation="difference")
    assert (made.topology.face_size == 3).all()
    assert made.counts["points"] == 8
    assert made.topology.euler_characteristic == 0
    assert measure.face_areas(made).sum() == pytest.approx(0.75)


def test_faces_keep_looking_their_own_way() -> None:
    made, source = put_together(SHEET, ops.transform(ops.reverse(SHEET), move=(0.6, 0, 0)))
    assert (measure.face_normals(made)[:, 1] > 0).tolist() == (source < 4).tolist()


def test_loose_points_and_curves_of_the_first_stay() -> None:
    first = ops.join(SHEET, ops.transform(ops.line(), move=(0, 5, 0)))
    made, _ = put_together(first, ops.disc(radius=0.1))
    assert made.counts["curves"] == 1


def test_nothing_is_left() -> None:
    made, source = put_together(SHEET, ops.transform(SHEET, scale=(3, 1, 3)), operation="difference")
    assert made.counts["faces"] == len(source) == 0
