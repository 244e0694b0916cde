"""Group by label: name the elements of some connected pieces, or with some values of any label."""

import numpy as np
import pytest

from reticula.core import ops
from reticula.core.diagnostics import Note
from reticula.core.errors import ParameterError
from tests.core.operators.groups.support import members


def test_pieces_and_labels(notes: list[Note]) -> None:
    three = ops.join(
        ops.grid(cells=(1, 1)),
        ops.transform(ops.grid(cells=(3, 3)), move=(3, 0, 0)),
        ops.transform(ops.grid(cells=(2, 1)), move=(6, 0, 0)),
    )
    assert members(ops.group_by_label(three), "chosen") == list(range(1, 10))
    assert members(ops.group_by_label(three, choose="smallest", number=2), "chosen") == [0, 10, 11]
    assert members(ops.group_by_label(three, choose="values", values="0, 2"), "chosen") == [0, 10, 11]
    assert len(members(ops.group_by_label(three, choose="values", values="0-1 9"), "chosen")) == 10
    assert notes[-2].text == "No element has 9."
    named = three.with_attribute("face", "use", np.array(["a b"] + ["sand"] * 11))
    each = ops.group_by_label(named, label="use", choose="each")
    assert members(each, "chosen_a_b") == [0]
    assert len(members(each, "chosen_sand")) == 11
    with pytest.raises(ParameterError, match="'area' is a number; a label is"):
        ops.group_by_label(three, label="area")
    with pytest.raises(ParameterError, match="'x' is not a whole number"):
        ops.group_by_label(three, choose="values", values="x")
