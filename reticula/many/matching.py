"""What formulas say of variants: their values and numbers are attributes, one element for each."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from typing import Any

import numpy as np

from reticula.core.arrays import Flags, Floats
from reticula.core.geometry import Geo
from reticula.core.language import evaluate

__all__ = ["called", "held", "measured"]


def called(name: str) -> str:
    """Return how a formula calls a column: a name of letters, digits and ``_``."""
    plain = re.sub(r"\W", "_", name)
    return f"_{plain}" if plain[:1].isdigit() or plain == "position" else plain


def held(rows: Sequence[Mapping[str, Any]], where: str) -> Flags:
    """Return for which rows a formula holds ``(N,)``.

    Columns are called as :func:`called` says. Of numbers that a row does not have every comparison is false. Raises
    FormulaError for a formula that cannot be read, or reads what no column is called.
    """
    found: Flags = np.asarray(evaluate(where, _geo(rows), "point", "flag").array, bool)
    return found


def measured(rows: Sequence[Mapping[str, Any]], formula: str) -> Floats:
    """Return what a formula says of each row ``(N,)``, NaN where that is no finite number, as a number that it reads is
    not there.

    Columns are called as :func:`called` says. Raises FormulaError as :func:`held` does.
    """
    found = np.array(evaluate(formula, _geo(rows), "point", "number", finite=False).array, np.float64)
    return np.where(np.isfinite(found), found, np.nan)


def _geo(rows: Sequence[Mapping[str, Any]]) -> Geo:
    names = dict.fromkeys(name for row in rows for name in row)
    columns = {called(name): _column([row.get(name) for row in rows]) for name in names}
    return Geo.of(np.zeros((len(rows), 3)), **{name: one for name, one in columns.items() if one is not None})


def _column(values: list[Any]) -> Any:
    """Return values as an attribute takes them; None for lists, which have no type of their own."""
    kinds = {type(one) for one in values if one is not None}
    if kinds == {bool}:
        return np.array([bool(one) for one in values])
    if kinds == {str}:
        return np.array(["" if one is None else one for one in values])
    if kinds <= {int, float, bool}:
        return np.array([np.nan if one is None else one for one in values], np.float64)
    return None
