"""What the tests of this folder share."""

from __future__ import annotations

from typing import Any

from reticula.core import Geo
from reticula.core.diagnostics import Note


def names(geo: Geo, kind: Any, *elements: int) -> list[str]:
    return [f"{geo.identity(kind)[element]:x}" for element in elements]


def texts(notes: list[Note], level: str = "warning") -> list[str]:
    return [note.text for note in notes if note.level == level]
