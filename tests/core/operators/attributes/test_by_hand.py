"""Attributes edited by hand: single values, names, types."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import ParameterError


def names(geo: Geo, kind: Any, *elements: int) -> list[str]:
    return [f"{geo.identity(kind)[element]:x}" for element in elements]


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


def test_attributes_are_renamed(notes: list[Note]) -> None:
    geo = ops.set_attribute(ops.box(), name="heat", value="index")
    made = ops.rename_attribute(geo, kind="point", name="heat", to="warmth")
    assert made.has("point", "warmth")
    assert not made.has("point", "heat")
    assert made.find("point", "warmth") is geo.find("point", "heat")
    with pytest.raises(ParameterError, match="'heat' already"):
        ops.rename_attribute(ops.set_attribute(geo, name="b", value=1.0), kind="point", name="b", to="heat")
    with pytest.raises(ParameterError, match="points need their position"):
        ops.rename_attribute(geo, kind="point", name="position", to="p")


def test_attributes_are_removed_by_pattern(notes: list[Note]) -> None:
    geo = ops.box()
    for name in ("heat_a", "heat_b", "cover"):
        geo = ops.set_attribute(geo, name=name, value="index")
    assert set(ops.remove_attributes(geo, names="heat*").attributes["point"]) == {"position", "cover"}
    assert set(ops.remove_attributes(geo, names="cover", which="others").attributes["point"]) == {"position", "cover"}
    assert set(ops.remove_attributes(geo, names="heat*", kind="face").attributes["point"]) == {
        "position",
        "heat_a",
        "heat_b",
        "cover",
    }
    assert any("no attribute fits 'heat*'" in note.text for note in notes)


@pytest.mark.parametrize(
    ("value", "type", "expected"),
    [
        ("index * 0.6", "integer", [0, 1, 1, 2]),
        ("index", "flag", [False, True, True, True]),
        ("index", "vec3", [[0] * 3, [1] * 3, [2] * 3, [3] * 3]),
        ("vec3(index, 2, 3)", "vec4", [[0, 2, 3, 1], [1, 2, 3, 1], [2, 2, 3, 1], [3, 2, 3, 1]]),
        ("vec3(index, 2, 3)", "number", [0, 1, 2, 3]),
        ("index > 1", "text", ["no", "no", "yes", "yes"]),
        ("vec2(index, 0.5)", "text", ["0 0.5", "1 0.5", "2 0.5", "3 0.5"]),
        ("'2.5' if index > 1 else 'x'", "number", [0, 0, 2.5, 2.5]),
    ],
)
def test_values_are_converted(notes: list[Note], value: str, type: str, expected: list[Any]) -> None:
    geo = ops.set_attribute(ops.grid(cells=(1, 1)), name="v", value=value)
    made = ops.convert_attribute(geo, kind="point", name="v", type=type)
    assert made.find("point", "v").type == type
    assert made.attribute("point", "v").tolist() == expected
    assert any("are no numbers" in note.text for note in notes) == ("'x'" in value)


def test_names_of_picks_that_follow_are_no_names_of_values() -> None:
    """A ``+`` means something to a pick alone."""
    sheet = ops.grid(cells=(2, 1))
    with pytest.raises(ParameterError, match="edits: "):
        ops.edit_values(sheet, name="heat", edits={"ab+": 1.0})
