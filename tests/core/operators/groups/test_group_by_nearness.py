"""Group by nearness: name the elements near another geometry, or look up which elements its points are nearest to."""

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from tests.core.operators.groups.support import members


def test_nearness_both_ways(strip: Geo, notes: list[Note]) -> None:
    dot = Geo.of([[0.02, 0.1, 0], [0.47, 0, 0]])
    near = ops.group_by_nearness(strip, dot, kind="face", to="points", reach=0.15)
    assert members(near, "near") == [4, 5, 8, 9]
    reverse = ops.group_by_nearness(strip, dot, kind="face", which="nearest", reach=1.0)
    assert members(reverse, "near") == [5, 9]
    ops.group_by_nearness(strip, Geo.empty())
    assert any("holds no elements to measure" in note.text for note in notes)


def test_nearness_to_a_curve_is_measured_to_its_segments(strip: Geo, notes: list[Note]) -> None:
    line = ops.line(begin=(-5, 0.1, 0), end=(5, 0.1, 0))
    assert ops.group_by_nearness(strip, line, kind="face", reach=0.101).group("face", "near").all()
    assert not ops.group_by_nearness(strip, line, kind="face", reach=0.099).group("face", "near").any()
