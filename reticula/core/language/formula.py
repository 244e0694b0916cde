"""Formulas: one expression evaluated for every element of a kind, or once."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from reticula.core.arrays import AnyArray, as_rows
from reticula.core.errors import FormulaError
from reticula.core.finite import all_finite
from reticula.core.geometry.mesh.attribute_types import TYPES, AttributeType
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.mesh.kinds import PLURAL, Kind
from reticula.core.language import ir
from reticula.core.language.apply_effects import OwnWrites
from reticula.core.language.compiled import Job, run_job
from reticula.core.language.effects import Effects, Log
from reticula.core.language.limits import MOST_SECONDS
from reticula.core.language.parse import parse
from reticula.core.language.scope import Scope
from reticula.core.language.typecheck import check_program, convert
from reticula.core.language.types import ElementOf, PlaceOf, in_words, is_list
from reticula.core.language.vector.clock import Clock
from reticula.core.language.vector.statements import ProgramRunner

__all__ = ["Values", "evaluate", "evaluate_once"]

MANY = 20_000
"""Elements from which on a formula is worth a kernel of its own."""
VALUE = "value of the formula"
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

    @property
    def info(self) -> AttributeType:
        """All about the type."""
        return TYPES[self.type]


def evaluate(
    source: str,
    geo: Geo,
    kind: Kind,
    wanted: str | None = None,
    dials: Mapping[str, Any] | None = None,
    *,
    inputs: Mapping[str, Geo | None] | None = None,
    ties: Mapping[str, Mapping[str, Any]] | None = None,
    finite: bool = True,
) -> Values:
    """Evaluate a formula on each element of ``kind``.

    ``inputs`` are geometries that it may ask by name (``geo`` itself if nothing is given); ``ties`` are the parameter
    values of other nodes.

    ``wanted`` is the type it must have (None: whatever it gives). Raises FormulaError if it cannot be read, has
    another type, or gives a value that is not a finite number; the message names the first such element. With
    ``finite`` false such values are returned as they are.
    """
    scope = Scope(geo, kind, dials or {}, {"geo": geo} if inputs is None else inputs, ties or {})
    program = check_program(source, parse(source), scope)
    expression = finished(program.result, wanted)
    count = geo.topology.count(kind)
    values = _on_compiled(program, expression, scope) if count >= MANY else _on_vectors(program, expression, scope)
    if len(values) != count:
        values = np.broadcast_to(values, (count, *values.shape[1:]))
    if finite:
        _require_finite(values, kind)
    return Values(str(expression.type), values)


def _on_vectors(program: ir.Program, expression: ir.Expression, scope: Scope, clock: Clock | None = None) -> AnyArray:
    runner = ProgramRunner(program, scope, clock=clock or Clock(MOST_SECONDS))
    runner.go()
    runner.rows = None
    with np.errstate(all="ignore"):
        values: AnyArray = runner.run(expression)
    return values


def _on_compiled(program: ir.Program, expression: ir.Expression, scope: Scope) -> AnyArray:
    """Run a formula as a script that writes its value: on its kernel, if that is built."""
    write = ir.Write(expression.place, VALUE, expression)
    whole = replace(program, body=(*program.body, write), writes={VALUE: expression.type}, result=None)
    count = scope.geo.topology.count(scope.kind)

    def on_vectors(clock: Clock) -> tuple[dict[str, OwnWrites], Effects]:
        values = _on_vectors(program, expression, scope, clock)
        return {VALUE: OwnWrites(expression.type, values, np.ones(1, bool))}, Log({}).finished()

    own, _ = run_job(Job(whole, scope, np.arange(count)), Clock(MOST_SECONDS), on_vectors)
    values: AnyArray = own[VALUE].values
    return values


def finished(expression: ir.Expression | None, wanted: str | None) -> ir.Expression:
    """Return a formula's value as one value of the type ``wanted``; raise FormulaError that says how to get there."""
    assert expression is not None
    line, column, length = expression.place
    there = {"line": line, "column": column, "length": length}
    if is_list(expression.type):
        raise FormulaError("this gives a list; take one value with mean(), sum(), min(), max() or len()", **there)
    if isinstance(expression.type, PlaceOf):
        advice = "name what you want of it, e.g. .position, .distance or .found"
        raise FormulaError(f"this gives a place; {advice}", **there)
    if isinstance(expression.type, ElementOf):
        if isinstance(expression, ir.Here):
            raise FormulaError(
                "'here' needs what is around the element or one of its values, e.g. here.index or "
                "mean(here.points.position)",
                **there,
            )
        raise FormulaError("this gives an element; name what you want of it, e.g. .position or .index", **there)
    if wanted is None:
        return expression
    converted = convert(expression, TYPES[wanted])
    if converted is None:
        parts = ", ".join(str(number) for number in range(1, TYPES[wanted].size + 1))
        build = f"build it, e.g. {wanted}({parts})" if TYPES[wanted].is_vector else ""
        advice = ADVICE.get(wanted, build)
        raise FormulaError(
            f"this gives {in_words(expression.type)}, but {in_words(TYPES[wanted])} is wanted"
            + (f"; {advice}" if advice else "")
        )
    return converted


def _require_finite(values: AnyArray, kind: Kind) -> None:
    if all_finite(values):
        return
    finite = np.isfinite(as_rows(values)).all(axis=1)
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
    """Evaluate a formula once: it reads dials, inputs and other nodes; returns plain Python data of the type
    ``wanted``.
    """
    named = inputs or {}
    geo = named.get("geo") or _NOWHERE
    return evaluate(source, geo, "whole", wanted, dials, inputs=named, ties=ties).array[0].tolist()
