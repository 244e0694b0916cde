"""Convert group: turn a group of one element kind into a group of another."""

import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note


@pytest.mark.parametrize(
    ("kind", "to", "counts", "expected"),
    [
        ("face", "point", "any", 4),
        ("face", "point", "all", 0),
        ("face", "edge", "any", 4),
        ("face", "edge", "all", 0),
        ("face", "corner", "any", 4),
        ("face", "face", "any", 1),
        ("point", "face", "any", 4),
        ("point", "face", "all", 0),
        ("edge", "face", "any", 2),
        ("point", "corner", "any", 4),
        ("corner", "point", "any", 1),
        ("edge", "point", "any", 2),
    ],
)
def test_converting(sheet: Geo, kind: str, to: str, counts: str, expected: int, notes: list[Note]) -> None:
    """Of one element in the middle: face 12, the point 14 of its corner, the edge between faces 12 and 13."""
    where = {
        "face": "index == 12",
        "point": "index == 14",
        "corner": "index == 48",
        "edge": "abs(position.x - 0.1) + abs(position.z) < 0.001",
    }[kind]
    made = ops.convert_group(sheet, kind=kind, where=where, to=to, counts=counts)
    assert made.group(to, "converted").sum() == expected


def test_converting_through_points_to_curves() -> None:
    both = ops.join(ops.line(), ops.transform(ops.circle(), move=(5, 0, 0)))
    made = ops.convert_group(both, kind="point", where="position.x > 3", to="curve", counts="all")
    assert made.group("curve", "converted").tolist() == [False, True]
