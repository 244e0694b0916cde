"""Group border: name what lies on a border: its edges."""

import numpy as np

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from tests.core.operators.groups.support import members


def test_borders(strip: Geo, notes: list[Note]) -> None:
    assert len(members(ops.group_border(strip), "border", "edge")) == 22
    assert members(ops.group_border(ops.grid(cells=(3, 3)), kind="face"), "border") == [0, 1, 2, 3, 5, 6, 7, 8]
    assert len(members(ops.group_border(ops.grid(cells=(3, 3)), kind="point"), "border", "point")) == 12
    inner = ops.group_border(strip, of="faces", where="index < 5", with_open=False)
    edges = strip.positions[strip.topology.edges[members(inner, "border", "edge")]]
    np.testing.assert_allclose(edges[..., 0], 0.0, atol=1e-12)
    ops.group_border(ops.box())
    assert "The mesh is closed." in notes[-1].text


def test_non_manifold_edges() -> None:
    book = Geo.from_faces([[0, 0, 0], [0, 1, 0], [1, 0, 0], [-1, 0, 0], [0, 0, 1]], [[0, 1, 2], [0, 1, 3], [0, 1, 4]])
    assert len(members(ops.group_border(book, of="non-manifold"), "border", "edge")) == 1
