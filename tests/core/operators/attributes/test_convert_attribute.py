"""Convert attribute: give an attribute another type, its values turned over as well as they can be."""

from __future__ import annotations

from typing import Any

import pytest

from reticula.core import ops
from reticula.core.diagnostics import Note


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
