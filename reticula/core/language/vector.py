"""The vector back end: runs the intermediate form on whole arrays with NumPy."""

from __future__ import annotations

from typing import Any

import numpy as np

from reticula.core.arrays import AnyArray
from reticula.core.errors import FormulaError
from reticula.core.geometry.walking import surface_distances
from reticula.core.language import ir, lists
from reticula.core.language.functions import VECTORS
from reticula.core.language.queries import ask
from reticula.core.language.scope import Scope, adjacent
from reticula.core.spatial.sampling import NOTHING

__all__ = ["run"]


def run(expression: ir.Expression, scope: Scope) -> AnyArray:
    """Return the values for all elements: ``(N, ...)``, or ``(1, ...)`` where nothing in it varies."""
    with np.errstate(all="ignore"):
        return _Runner(scope).run(expression)


class _Runner:
    """Runs one formula. Answers to queries are kept, so that asking for position and normal of a place asks once."""

    def __init__(self, scope: Scope) -> None:
        self.scope = scope
        self.answers: dict[ir.Query, Any] = {}

    def run(self, expression: ir.Expression) -> AnyArray:
        scope = self.scope
        match expression:
            case ir.Constant(value=value):
                return np.array([value])
            case ir.Read(type="identity", kind=kind):
                return scope.geo.identity(kind)
            case ir.Read(kind=kind, name=name):
                return scope.values(kind, name)
            case ir.ReadOf(input=input, name=name):
                return self.of(input).values("whole", name)
            case ir.Component(vector=vector, components=components):
                values = self.run(vector)
                return values[:, components[0]] if len(components) == 1 else values[:, list(components)]
            case ir.Gather(how=how, items=items):
                return self.gather(how, items)
            case ir.Walk(begin=begin):
                flags = np.broadcast_to(self.run(begin), (scope.geo.topology.point_count,))
                far = surface_distances(scope.geo, flags)
                return np.where(np.isfinite(far), far, NOTHING)
            case ir.Query():
                return np.asarray(self.ask(expression))
            case ir.Found(query=query, name=name, kind=on):
                place = self.ask(query)
                return place.attribute(on, name).values if on else np.asarray(getattr(place, name))
            case ir.Apply():
                return self.apply(expression)
        raise AssertionError(f"unknown form {expression}")

    def of(self, input: str) -> Scope:
        geo = self.scope.inputs[input]
        assert geo is not None
        return Scope(geo, "whole")

    def ask(self, query: ir.Query) -> Any:
        if query not in self.answers:
            self.answers[query] = ask(query.how, self.of(query.input).geo, [self.run(a) for a in query.arguments])
        return self.answers[query]

    def apply(self, expression: ir.Apply) -> AnyArray:
        function = expression.function
        values = [self.run(argument) for argument in expression.arguments]
        if expression.type in VECTORS and not function.name.startswith("vec") and function.name != "if":
            values = [v if v.ndim == 2 else v[:, None] for v in values]
        try:
            return function.run(*values)
        except ZeroDivisionError:
            line, column, length = expression.place
            raise FormulaError(
                "division by zero; guard it, e.g. a // max(b, 1)", line=line, column=column, length=length
            ) from None

    def gather(self, how: str, items: ir.ListOf) -> AnyArray:
        source = self.of(items.input) if items.input else self.scope
        if items.query is not None:
            start, index = self.ask(items.query)
        elif items.input:
            count = source.geo.topology.count(items.kind)
            start, index = np.array([0, count]), np.arange(count)
        else:
            start, index = adjacent(source.geo, items.kind, items.around)
        if how == "len":
            return np.diff(start).astype(np.int64)
        values = _Runner(source).run(items.value)
        spread = values[np.zeros_like(index)] if len(values) == 1 else values[index]
        return spread if how == "only" else lists.reduce(how, start, spread)
