"""Looks at names and at shapes that stand somewhere."""

import numpy as np
import pytest

from reticula.core import ops
from reticula.core.errors import GeometryError
from reticula.workers.buffers import BufferFiles
from tests.workers.asking import look


def test_names_are_those_that_picked_groups_keep(buffers: BufferFiles) -> None:
    sheet = ops.grid(cells=(4, 4))
    names = look(sheet, {"what": "names", "kind": "face", "elements": [5, 0]}, buffers)["names"]
    made = ops.group_picked(sheet, elements=names)
    assert np.flatnonzero(made.group("face", "picked")).tolist() == [0, 5]
    with pytest.raises(GeometryError, match="only 16 faces now; pick them again"):
        look(sheet, {"what": "names", "kind": "face", "elements": [16]}, buffers)


def test_a_name_with_others_beside_it_is_not_to_be_followed(buffers: BufferFiles) -> None:
    split = ops.split_faces(ops.grid(cells=(2, 1)))
    whole = look(split, {"what": "names", "kind": "face", "elements": [0, 1, 2, 3]}, buffers)["names"]
    part = look(split, {"what": "names", "kind": "face", "elements": [0, 1]}, buffers)["names"]
    assert all(name.endswith("+") for name in whole)
    assert not part[0].endswith("+")
    assert part[1].endswith("+")


def test_a_shape_is_drawn_where_it_stands(buffers: BufferFiles) -> None:
    standing = ops.set_place(ops.grid(cells=(1, 1)), move=(0, 3, 0), turn=(90, 0, 0))
    mesh = look(standing, {"what": "mesh"}, buffers)
    assert np.allclose(np.asarray(mesh["bounds"])[:, 2], 0.0)
    assert np.allclose(np.asarray(mesh["bounds"])[:, 1], [2.5, 3.5])
    rows = look(standing, {"what": "rows", "kind": "point"}, buffers)
    assert rows["total"] == 4
