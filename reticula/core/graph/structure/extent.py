"""How deep and how large plain JSON data may be, looked at before anything else is done with it."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from reticula.core.errors import GraphError

__all__ = ["MOST_BYTES", "MOST_DEEP", "check_depth", "rough_size"]

MOST_DEEP = 64
"""Levels of lists and objects: 20 graphs in each other."""
MOST_BYTES = 24 * 1024**2
"""Size of a document as text."""


def check_depth(data: Any, what: str = "the graph document") -> None:
    """Raise GraphError if plain data is nested too deeply. Without recursion, level by level."""
    level = [data]
    for _ in range(MOST_DEEP):
        level = [part for one in level for part in _parts(one) if isinstance(part, (dict, list, tuple))]
        if not level:
            return
    raise GraphError(f"{what} is nested in more than {MOST_DEEP} levels; make it flatter")


def _parts(data: Any) -> Iterable[Any]:
    return data.values() if isinstance(data, dict) else data if isinstance(data, (list, tuple)) else ()


def rough_size(data: Any) -> int:
    """Return about how many letters plain data has as JSON text. Without recursion."""
    total, level = 0, [data]
    while level:
        following: list[Any] = []
        for part in level:
            if isinstance(part, dict):
                total += sum(len(str(key)) + 4 for key in part) + 2
                following.extend(part.values())
            elif isinstance(part, (list, tuple)):
                total += len(part) + 2
                following.extend(part)
            else:
                total += len(part) + 2 if isinstance(part, str) else 8
        level = following
    return total
