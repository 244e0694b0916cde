"""STL: equal points are shared again."""

import pytest

from reticula.core import ops
from reticula.core.diagnostics import Note
from reticula.core.formats import read_bytes, write_bytes


@pytest.mark.parametrize("encoding", ["binary", "ascii"])
def test_stl_shares_equal_points(encoding: str, notes: list[Note]) -> None:
    ball = ops.geodesic_sphere(frequency=3)
    again = read_bytes("a.stl", write_bytes(ball, "a.stl", encoding=encoding))
    assert again.counts["points"] == ball.counts["points"]
    assert not again.topology.border_edges.any()
    assert again.positions.max() == pytest.approx(ball.positions.max(), abs=1e-6)
