"""Geometries put together say who got defaults."""

import numpy as np

from reticula.core import ops
from reticula.core.diagnostics import Note
from reticula.core.reports.concatenation import concatenate_and_tell


def test_defaults_are_noted_with_their_number(notes: list[Note]) -> None:
    box = ops.box().with_attribute("point", "heat", np.ones(8))
    made = concatenate_and_tell([box, ops.box()])
    assert made.attribute("point", "heat").tolist() == [1] * 8 + [0] * 8
    assert [note.text for note in notes if "heat" in note.text] == [
        "8 points had no 'heat' (0) and hold these defaults."
    ]


def test_types_that_do_not_go_together_are_warned_of(notes: list[Note]) -> None:
    one, other = (ops.box().with_attribute("point", "tag", values) for values in (np.ones(8), np.full(8, "a")))
    made = concatenate_and_tell([one, other])
    assert not made.has("point", "tag")
    assert any(note.level == "warning" and "'tag' has several types" in note.text for note in notes)
