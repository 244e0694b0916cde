"""Columns of a table from what is known of many results."""

from __future__ import annotations

import json
from collections.abc import Iterable, Mapping, Sequence
from typing import Any

__all__ = ["columns_of"]


def columns_of(
    rows: Sequence[Mapping[str, Any]],
    plain: Sequence[str],
    groups: Mapping[str, bool],
    more: Sequence[str],
    lines: Sequence[str],
) -> dict[str, list[Any]]:
    """Return a column for each thing that is known of rows, in the order of the arguments.

    ``plain`` and ``more`` are single values, ``lines`` lists of texts. ``groups`` are values by name: a column has that
    name alone where this is true of the group and the name is free, else the group's name before it.
    """
    columns: dict[str, list[Any]] = {name: [one[name] for one in rows] for name in plain}
    for group, alone in groups.items():
        for name in dict.fromkeys(name for one in rows for name in one[group]):
            called = name if alone and name not in columns else f"{group}.{name}"
            columns[called] = _alike(one[group].get(name) for one in rows)
    columns |= {name: [one[name] for one in rows] for name in more}
    columns |= {name: ["\n".join(one[name]) for one in rows] for name in lines}
    return columns


def _alike(values: Iterable[Any]) -> list[Any]:
    """Return a column whose values are of one type: numbers and flags as they are, all else as text."""
    listed = list(values)
    kinds = {type(one) for one in listed if one is not None}
    if kinds <= {int, float}:
        return [None if one is None else float(one) for one in listed] if float in kinds else listed
    if kinds in ({bool}, {str}):
        return listed
    return [None if one is None else one if isinstance(one, str) else json.dumps(one) for one in listed]
