"""Group: name the elements for which a formula holds."""

import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import ParameterError
from tests.core.operators.attributes.support import texts
from tests.core.operators.groups.support import members


def test_group_counts_and_combines(notes: list[Note]) -> None:
    sheet = ops.group(ops.grid(), name="low", where="index < 30")
    assert sheet.group("face", "low").sum() == 30
    assert texts(notes, "note") == ["'low' holds 30 of 100 faces (30.0%)."]
    for how, expected in (("add", 50), ("keep both", 10), ("take away", 20), ("replace", 30)):
        made = ops.group(sheet, name="low", where="index >= 20 and index < 50", combine=how)
        assert made.group("face", "low").sum() == expected, how


def test_an_empty_group_is_warned_about(notes: list[Note]) -> None:
    ops.group(ops.grid(), where="area > 5")
    assert texts(notes) == ["The group 'marked' is empty: none of 100 faces fits."]
    with pytest.raises(ParameterError, match="'position' is a built-in value in formulas"):
        ops.group(ops.grid(), name="position")
    with pytest.raises(ParameterError, match="'2nd' is not a name"):
        ops.group(ops.grid(), name="2nd")


@pytest.mark.parametrize("kind", ["point", "edge", "corner", "face"])
def test_groups_on_every_kind(kind: str, cube: Geo) -> None:
    made = ops.group(cube, kind=kind, name="some", where="index < 3")
    assert made.group(kind, "some").sum() == 3


def test_numbers_are_always_told(strip: Geo, notes: list[Note]) -> None:
    ops.group_by_pattern(strip)
    ops.group(strip, where="index < 0")
    ops.group(strip)
    assert [note.text for note in notes] == [
        "'pattern' holds 5 of 10 faces (50.0%).",
        "The group 'marked' is empty: none of 10 faces fits.",
        "The group 'marked' holds all 10 faces.",
    ]
    assert [note.level for note in notes] == ["note", "warning", "warning"]


@pytest.mark.parametrize(("how", "expected"), [("add", [0, 1, 2, 5]), ("keep both", [1]), ("take away", [0, 2])])
def test_combining_with_the_group_that_was_there(strip: Geo, how: str, expected: list[int]) -> None:
    made = ops.group(strip, where="index < 3")
    made = ops.group(made, where="index == 1 or index == 5", combine=how)
    assert members(made, "marked") == expected
