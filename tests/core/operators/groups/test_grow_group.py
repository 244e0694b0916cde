"""Grow group: make a group larger or smaller by its neighbours, or take its outline."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note


@pytest.mark.parametrize(
    ("how", "steps", "across", "count"),
    [
        ("grow", 1, "edges", 5),
        ("grow", 1, "points", 9),
        ("grow", 2, "edges", 13),
        ("ring", 1, "edges", 4),
        ("grow", 0, "edges", 1),
        ("grow", 50, "edges", 25),
        ("shrink", 1, "edges", 0),
    ],
)
def test_growing_one_face(sheet: Geo, how: str, steps: int, across: str, count: int, notes: list[Note]) -> None:
    made = ops.grow_group(sheet, where="index == 12", how=how, steps=steps, across=across)
    assert made.group("face", "grown").sum() == count


def test_shrink_and_outline_part_a_group(sheet: Geo) -> None:
    block = ops.grow_group(sheet, where="index == 12", across="points", name="block")
    core = ops.grow_group(block, where="block", how="shrink").group("face", "grown")
    rim = ops.grow_group(block, where="block", how="outline").group("face", "grown")
    assert np.flatnonzero(core).tolist() == [12]
    assert (core ^ rim == block.group("face", "block")).all()


def test_growing_points_and_edges(sheet: Geo) -> None:
    assert ops.grow_group(sheet, kind="point", where="index == 14").group("point", "grown").sum() == 5
    assert ops.grow_group(sheet, kind="point", where="index == 14", across="points").group("point", "grown").sum() == 9
    assert ops.grow_group(sheet, kind="edge", where="index == 0").group("edge", "grown").sum() > 1


def test_growing_warns_where_nothing_is_connected(sheet: Geo, notes: list[Note]) -> None:
    ops.grow_group(ops.unshare(sheet), where="index == 12")
    assert any("put weld before this" in note.text for note in notes)
