"""Values as a script prints them."""

from __future__ import annotations

from typing import Any

import numpy as np

from reticula.core.language.types import NUMBER, ElementOf, Type, item_of
from reticula.core.language.vector.lists import Lists
from reticula.core.language.vector.values import Value
from reticula.core.spatial.sampling import Sample

__all__ = ["told"]


def told(value: Value, row: int, type: Type) -> str:
    """One value as text."""
    if isinstance(value, Lists):
        one = value.take(np.array([row if len(value) > 1 else 0]))
        inside = [_plain(item, item_of(type)) for item in one.content[1][:20].tolist()]
        more = ", …" if int(one.length[0]) > 20 else ""
        return f"[{', '.join(inside)}{more}]"
    if isinstance(value, Sample):
        return "a place" if value.found[row if len(value) > 1 else 0] else "no place"
    return _plain(value[row if len(value) > 1 else 0].tolist(), type)


def _plain(value: Any, type: Type) -> str:
    if isinstance(type, ElementOf):
        return f"{type.kind} {value}"
    if isinstance(value, list):
        return f"({', '.join(_plain(part, NUMBER) for part in value)})"
    if isinstance(value, bool):
        return "yes" if value else "no"
    return f"{value:.6g}" if isinstance(value, float) else str(value)
