"""The vector back end: runs the intermediate form on whole arrays with NumPy."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray
from reticula.core.errors import FormulaError
from reticula.core.language import ir
from reticula.core.language.functions import VECTORS
from reticula.core.language.scope import Scope, adjacent

__all__ = ["run"]


def run(expression: ir.Expression, scope: Scope) -> AnyArray:
    """Return the values for all elements: ``(N, ...)``, or ``(1, ...)`` where nothing in it varies."""
    with np.errstate(all="ignore"):
        return _run(expression, scope)


def _run(expression: ir.Expression, scope: Scope) -> AnyArray:
    match expression:
        case ir.Constant(value=value):
            return np.array([value])
        case ir.Read(type="identity", kind=kind):
            return scope.geo.identity(kind)
        case ir.Read(kind=kind, name=name):
            return scope.values(kind, name)
        case ir.Component(vector=vector, components=components):
            values = _run(vector, scope)
            return values[:, components[0]] if len(components) == 1 else values[:, list(components)]
        case ir.Gather(how=how, items=items):
            return _gather(how, items, scope)
        case ir.Apply(function=function, arguments=arguments):
            values_in = [_run(argument, scope) for argument in arguments]
            if expression.type in VECTORS and not function.name.startswith("vec") and function.name != "if":
                values_in = [v if v.ndim == 2 else v[:, None] for v in values_in]
            try:
                return function.run(*values_in)
            except ZeroDivisionError:
                line, column, length = expression.place
                raise FormulaError(
                    "division by zero; guard it, e.g. a // max(b, 1)", line=line, column=column, length=length
                ) from None
    raise AssertionError(f"unknown form {expression}")


def _gather(how: str, items: ir.ListOf, scope: Scope) -> AnyArray:
    start, index = adjacent(scope.geo, items.kind, items.around)
    sizes = np.diff(start)
    if how == "len":
        return sizes.astype(np.int64)
    source = _run(items.value, scope)
    values = (
        np.broadcast_to(source, (1, *source.shape[1:]))[np.zeros_like(index)] if len(source) == 1 else source[index]
    )
    if how == "only":
        return values
    out = np.zeros((len(sizes), *values.shape[1:]), values.dtype)
    filled = sizes > 0
    reducer = {
        "sum": np.add, "mean": np.add, "min": np.minimum, "max": np.maximum, "any": np.logical_or, "all": np.logical_and
    }[how]  # fmt: skip
    if how == "all":
        out[...] = True
    if filled.any():
        out[filled] = reducer.reduceat(values, start[:-1][filled], axis=0)
    if how == "mean":
        divisor = np.maximum(sizes, 1).reshape(-1, *([1] * (values.ndim - 1)))
        return out / divisor
    return out
