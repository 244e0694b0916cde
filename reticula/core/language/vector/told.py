"""Values as they are told to people: what a script prints, and what is shown of a text for one element."""

from __future__ import annotations

from typing import Any

import numpy as np

from reticula.core.language.types import NUMBER, ElementOf, Type, item_of
from reticula.core.language.vector.lists import Lists
from reticula.core.language.vector.values import Value
from reticula.core.spatial.sampling import Sample

__all__ = ["told", "told_plain"]

MOST_ITEMS = 20
"""Items of a list that are read out."""


def told(value: Value, row: int, type: Type, *, quoted: bool = False) -> str:
    """Return one row of a value (of its only one, if it has one for all) in words; texts ``quoted`` or bare."""
    at = row if len(value) > 1 else 0
    if isinstance(value, Lists):
        one = value.take(np.array([at]))
        length, item = int(one.length[0]), item_of(type)
        inside = ", ".join(told_plain(part, item, quoted=quoted) for part in one.content[1][:MOST_ITEMS].tolist())
        return f"[{inside}, … ({length:,} in all)]" if length > MOST_ITEMS else f"[{inside}]"
    if isinstance(value, Sample):
        return _told_place(value, at)
    return told_plain(value[at].tolist(), type, quoted=quoted)


def _told_place(found: Sample, row: int) -> str:
    if not found.found[row]:
        return "nothing found"
    face = int(found.face[row])
    on = f"face {face}" if face >= 0 else f"point {int(found.index[row])}"
    return f"{told_plain(found.position[row].tolist(), NUMBER)} on {on}, {float(found.distance[row]):.6g} m away"


def told_plain(value: Any, type: Type = NUMBER, *, quoted: bool = False) -> str:
    """Return plain data (a number, flag or text, or numbers in lists) of a type in words."""
    if isinstance(type, ElementOf):
        return f"{type.kind} {value}" if value >= 0 else f"new {type.kind} {-value}"
    if isinstance(value, list):
        if value and isinstance(value[0], list):
            return f"({'; '.join(', '.join(told_plain(part) for part in row) for row in value)})"
        inside = ", ".join(told_plain(part, quoted=quoted) for part in value[:MOST_ITEMS])
        return f"[{inside}, … ({len(value):,} in all)]" if len(value) > MOST_ITEMS else f"({inside})"
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, str):
        return f"'{value}'" if quoted else value
    return f"{value + 0.0:.6g}" if isinstance(value, float) else str(value)
