"""Edit values: set values of single elements by hand: double-click a cell of the ledger."""

from __future__ import annotations

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import ParameterError
from tests.core.operators.attributes.support import names


def test_values_stay_with_their_elements(notes: list[Note]) -> None:
    sheet = ops.set_attribute(ops.grid(cells=(4, 1)), kind="face", name="heat", value="index * 1.0")
    edits = dict(zip(names(sheet, "face", 1, 3), [9.5, -1.0], strict=True))
    made = ops.edit_values(sheet, kind="face", name="heat", edits=edits)
    np.testing.assert_array_equal(made.attribute("face", "heat"), [0, 9.5, 2, -1])
    fewer = ops.edit_values(ops.remove(sheet, where="index < 2"), kind="face", name="heat", edits=edits)
    np.testing.assert_array_equal(fewer.attribute("face", "heat"), [2, -1])
    assert any("1 of 2 edited faces are not there any more; their values are kept" in note.text for note in notes)
    assert ops.edit_values(Geo.empty(), kind="point", name="position", edits={"1f": [0, 0, 0]}).counts["points"] == 0


def test_values_of_every_type_and_those_that_do_not_fit(notes: list[Note]) -> None:
    geo = ops.set_attribute(ops.box(), name="word", value="'sand'")
    geo = ops.group(geo, name="hot", kind="point", where="index < 2")
    one = names(geo, "point", 5)[0]
    assert (
        ops.edit_values(geo, kind="point", name="word", edits={one: "a longer word"}).attribute("point", "word")[5]
        == "a longer word"
    )
    assert ops.edit_values(geo, kind="point", name="hot", edits={one: True}).group("point", "hot")[5]
    moved = ops.edit_values(geo, kind="point", name="position", edits={one: [7, 8, 9]})
    assert moved.positions[5].tolist() == [7, 8, 9]
    with pytest.raises(ParameterError, match=r"7 does not fit 'position', which is a vec3"):
        ops.edit_values(geo, kind="point", name="position", edits={one: 7})
    with pytest.raises(ParameterError, match="does not fit 'hot'"):
        ops.edit_values(geo, kind="point", name="hot", edits={one: "x"})
    with pytest.raises(ParameterError, match="not the name of an element"):
        ops.edit_values(geo, kind="point", name="hot", edits={"zz": True})
    with pytest.raises(ParameterError, match="2 to 4 numbers for an element"):
        ops.edit_values(geo, kind="point", name="hot", edits={one: [1, 2, 3, 4, 5]})
    with pytest.raises(ParameterError, match="choose an attribute"):
        ops.edit_values(geo, kind="point", edits={one: 1})


def test_names_of_picks_that_follow_are_no_names_of_values() -> None:
    """A ``+`` means something to a pick alone."""
    sheet = ops.grid(cells=(2, 1))
    with pytest.raises(ParameterError, match="edits: "):
        ops.edit_values(sheet, name="heat", edits={"ab+": 1.0})
