"""Set attribute: give every element a value worked out by a formula."""

import numpy as np
import pytest

from reticula.core import ops
from reticula.core.diagnostics import Note
from reticula.core.errors import ParameterError
from tests.core.operators.attributes.support import texts


def test_a_default_is_kept_for_elements_made_later(notes: list[Note]) -> None:
    box = ops.set_attribute(ops.box(), name="cover", kind="face", value="0.5", where="index < 2", default="0.1")
    np.testing.assert_allclose(box.attribute("face", "cover"), [0.5, 0.5, 0.1, 0.1, 0.1, 0.1])
    later = ops.join(box, ops.grid(cells=(1, 1)))
    assert later.attribute("face", "cover")[-1] == pytest.approx(0.1)
    with pytest.raises(ParameterError, match="default: "):
        ops.set_attribute(ops.box(), value="0.5", default="much")


def test_a_new_attribute_that_says_nothing_is_warned_of(notes: list[Note]) -> None:
    ops.set_attribute(ops.box(), name="cover", value="0.0")
    assert notes[-1].text == "'cover' is new and holds its default 0 on all 8 points."
    assert notes[-1].level == "warning"


def test_set_attribute_makes_changes_and_moves(notes: list[Note]) -> None:
    sheet = ops.set_attribute(ops.grid(cells=(2, 2)), name="heat", value="index * 2")
    assert sheet.find("point", "heat").type == "integer"
    assert ops.set_attribute(sheet, name="heat", type="number", value=3).find("point", "heat").type == "number"
    some = ops.set_attribute(sheet, name="heat", where="index == 4", value=100)
    assert some.attribute("point", "heat").tolist() == [0, 2, 4, 6, 100, 10, 12, 14, 16]
    lifted = ops.set_attribute(sheet, name="position", value="position + vec3(0, heat, 0)")
    assert lifted.positions[:, 1].tolist() == [0, 2, 4, 6, 8, 10, 12, 14, 16]
    assert sheet.positions[:, 1].max() == 0
    colored = ops.set_attribute(sheet, name="color", type="vec4", value="vec3(1, 0, 0)")
    assert colored.attribute("point", "color")[0].tolist() == [1, 0, 0, 1]


def test_set_attribute_says_what_holds_a_default(notes: list[Note]) -> None:
    sheet = ops.set_attribute(ops.grid(cells=(2, 2)), name="heat", where="index < 4", value=1.5)
    assert "'heat' is new: 5 points outside of 'where' hold 0." in texts(notes, "note")
    ops.set_attribute(sheet, name="heat", where="index < 4", value="index < 2")
    assert "'heat' was a number and is a flag now; 5 points lost their old value." in texts(notes)
    with pytest.raises(ParameterError, match="'position' is a vec3 of each point"):
        ops.set_attribute(sheet, name="position", value=1)
