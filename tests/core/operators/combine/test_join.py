"""Join: put geometries together without welding anything; elements follow each other in input order."""

import numpy as np

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note


def test_colours_are_white_where_nobody_gave_any(notes: list[Note]) -> None:
    red = ops.set_attribute(ops.box(), name="color", value="vec4(1, 0, 0, 1)")
    both = ops.join(red, ops.transform(ops.box(), move=(2, 0, 0)))
    np.testing.assert_array_equal(both.attribute("point", "color")[-1], [1, 1, 1, 1])


def test_join_keeps_all_and_says_what_was_filled(cube: Geo, mixed: Geo, notes: list[Note]) -> None:
    warm = mixed.with_attribute("point", "heat", np.ones(9))
    both = ops.join(cube, warm)
    assert both.counts["points"] == 17
    assert both.counts["curves"] == 2
    assert both.attribute("point", "heat").tolist() == [0] * 8 + [1] * 9
    assert notes[0].text == "8 points had no 'heat' (0) and hold these defaults."
    assert both.topology.curve_point.min() >= 8
    assert len(np.unique(ops.join(cube, cube, cube).identity("face"))) == 18


def test_join_of_clashing_types(cube: Geo, notes: list[Note]) -> None:
    numbers = cube.with_attribute("point", "a", np.ones(8))
    whole = cube.with_attribute("point", "a", np.ones(8, int))
    flags = cube.with_attribute("point", "a", np.ones(8, bool))
    assert ops.join(numbers, whole).find("point", "a").type == "number"
    assert not ops.join(numbers, flags).has("point", "a")
    assert "several types (flag, number)" in notes[-1].text
