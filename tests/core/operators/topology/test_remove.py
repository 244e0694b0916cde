"""Remove: counts, leftovers, what stays of curves."""

import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note


@pytest.mark.parametrize(
    ("kind", "where", "leftovers", "points", "faces"),
    [
        ("face", "index == 0", "remove", 8, 3),
        ("face", "index == 0", "keep", 9, 3),
        ("point", "index == 4", "remove", 0, 0),
        ("point", "index == 0", "remove", 8, 3),
        ("point", "index == 0", "keep", 8, 3),
        ("edge", "index == 0", "remove", 8, 3),
    ],
)
def test_remove(kind: str, where: str, leftovers: str, points: int, faces: int) -> None:
    made = ops.remove(ops.grid(cells=(2, 2)), kind=kind, where=where, leftovers=leftovers)
    assert (made.counts["points"], made.counts["faces"]) == (points, faces)


def test_remove_keeps_loose_points_and_curves(mixed: Geo) -> None:
    made = ops.remove(mixed, where="index == 1")
    assert made.counts == {"points": 7, "edges": 6, "corners": 7, "faces": 2, "curves": 2, "instances": 0}
    gone = ops.remove(mixed, kind="curve", where="closed")
    assert gone.topology.curve_closed.tolist() == [False]
    assert ops.remove(mixed, kind="point", where="index == 4").counts["curves"] == 1


def test_remove_says_when_nothing_or_all_is_marked(notes: list[Note]) -> None:
    sheet = ops.grid()
    assert ops.remove(sheet, where="area > 9") is sheet
    ops.remove(sheet, where="True")
    assert "so nothing was removed" in notes[0].text
    assert "so none is left" in notes[1].text
