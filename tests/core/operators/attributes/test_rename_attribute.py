"""Rename attribute: give an attribute or group another name."""

from __future__ import annotations

import pytest

from reticula.core import ops
from reticula.core.diagnostics import Note
from reticula.core.errors import ParameterError


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
