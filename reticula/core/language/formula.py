"""Formulas: one expression evaluated for every element of a kind, or once."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np

from reticula.core.arrays import AnyArray
from reticula.core.errors import FormulaError
from reticula.core.geometry.geo import Geo
from reticula.core.geometry.kinds import PLURAL, Kind
from reticula.core.language import ir
from reticula.core.language.check import check, convert
from reticula.core.language.scope import Scope
from reticula.core.language.vector import run

__all__ = ["Values", "evaluate", "evaluate_once"]

ADVICE = {
    "flag": "compare it, e.g. x > 0.5, or name a group",
    "integer": "round it with integer(x)",
    "number": "take one component, e.g. .x, or its length(v); yes and no become 1 and 0 with number(x)",
}


@dataclass(frozen=True, eq=False)
class Values:
    """The result of a formula: its type and one value per element ``(N, ...)``."""

    type: str
    array: AnyArray


def evaluate(
    source: str,
    geo: Geo,
    kind: Kind,
    wanted: str | None = None,
    dials: Mapping[str, Any] | None = None,
    *,
    inputs: Mapping[str, Geo | None] | None = None,
    ties: Mapping[str, Mapping[str, Any]] | None = None,
) -> Values:
    """Evaluate a formula on each element of ``kind``.

    ``inputs`` are geometries that it may ask by name (``geo`` itself if nothing is given); ``ties`` are the parameter
    values of other nodes.

    ``wanted`` is the type it must have (None: whatever it gives). Raises FormulaError if it cannot be read, has
    another type, or gives a value that is not a finite number; the message names the first such element.
    """
    scope = Scope(geo, kind, dials or {}, {"geo": geo} if inputs is None else inputs, ties or {})
    expression = check(source, scope)
    if isinstance(expression, ir.ListOf):
        line, column, length = expression.place
        raise FormulaError(
            "this gives a list; take one value with mean(), sum(), min(), max() or len()",
            line=line, column=column, length=length,
        )  # fmt: skip
    if expression.type == "place":
        line, column, length = expression.place
        raise FormulaError(
            "this gives a place; name what you want of it, e.g. .position, .distance or .found",
            line=line, column=column, length=length,
        )  # fmt: skip
    if wanted is not None:
        converted = convert(expression, wanted)
        if converted is None:
            advice = ADVICE.get(
                wanted,
                f"build it, e.g. {wanted}({', '.join('123'[: int(wanted[-1])])})" if wanted[-1:].isdigit() else "",
            )
            raise FormulaError(
                f"this gives a {expression.type}, but a {wanted} is wanted" + (f"; {advice}" if advice else "")
            )
        expression = converted
    count = geo.topology.count(kind)
    values = run(expression, scope)
    if len(values) != count:
        values = np.broadcast_to(values, (count, *values.shape[1:]))
    _require_finite(values, kind)
    return Values(expression.type, values)


def _require_finite(values: AnyArray, kind: Kind) -> None:
    if values.dtype.kind != "f":
        return
    finite = np.isfinite(values) if values.ndim == 1 else np.isfinite(values).all(axis=1)
    if finite.all():
        return
    bad = np.flatnonzero(~finite)
    raise FormulaError(
        f"no finite number at {len(bad):,} of {len(values):,} {PLURAL[kind]} (first: {kind} {bad[0]}); "
        "a division by zero, a root or logarithm of a negative number, or a power that is too large: "
        "guard it, e.g. a / max(b, 0.001)"
    )


_NOWHERE = Geo.empty()


def evaluate_once(
    source: str,
    wanted: str,
    dials: Mapping[str, Any] | None = None,
    *,
    inputs: Mapping[str, Geo | None] | None = None,
    ties: Mapping[str, Mapping[str, Any]] | None = None,
) -> Any:
    """Evaluate a formula once: it reads dials, inputs and other nodes; returns plain Python data of the type ``wanted``."""
    named = inputs or {}
    geo = named.get("geo") or _NOWHERE
    return evaluate(source, geo, "whole", wanted, dials, inputs=named, ties=ties).array[0].tolist()
