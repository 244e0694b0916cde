"""Remove attributes: remove attributes and groups by name; points keep their position."""

from __future__ import annotations

from reticula.core import ops
from reticula.core.diagnostics import Note


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
