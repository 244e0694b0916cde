"""Values on whole arrays: their shapes and types, and rows of them."""

from __future__ import annotations

from typing import Any

import numpy as np

from reticula.core.arrays import AnyArray
from reticula.core.geometry.mesh.attribute_types import AttributeType
from reticula.core.language import ir
from reticula.core.language.types import ElementOf, Type
from reticula.core.language.vector.lists import Lists
from reticula.core.spatial.sampling import Sample

__all__ = ["Value", "blank", "dtype_of", "locals_read", "overlaid", "shape_of", "take", "together"]

Value = Any
"""An array with one row per element (or one for all), Lists, or a Sample."""


def shape_of(type: Type) -> tuple[int, ...]:
    """Return the shape of one value of a type."""
    return type.shape if isinstance(type, AttributeType) else ()


def dtype_of(type: Type) -> Any:
    """Return what NumPy holds a component as; elements are their numbers."""
    if isinstance(type, AttributeType):
        return type.dtype
    return np.int64 if isinstance(type, ElementOf) else np.float64


def blank(type: Type, count: int) -> AnyArray:
    """Return zeros of a type."""
    return np.zeros((count, *shape_of(type)), dtype_of(type))


def take(values: Value, rows: AnyArray) -> Value:
    """Return some rows of a value that has more than one."""
    if isinstance(values, Lists):
        return values.take(rows)
    return values.chosen(rows) if isinstance(values, Sample) else values[rows]


def locals_read(expression: ir.Expression) -> set[str]:
    """Return the names that an expression reads."""
    found: set[str] = set()
    stack: list[Any] = [expression]
    while stack:
        part = stack.pop()
        if isinstance(part, ir.Local):
            found.add(part.name)
        if isinstance(part, ir.ExpressionNode):
            stack.extend(vars(part).values())
        elif isinstance(part, tuple):
            stack.extend(part)
    return found


def overlaid(before: AnyArray | None, rows: AnyArray, count: int, value: AnyArray) -> AnyArray:
    """Return values that are ``value`` at ``rows`` and as before elsewhere."""
    shape = value.shape[1:]
    if before is None:
        out = np.zeros((count, *shape), value.dtype)
    elif len(before) != count or not before.flags.writeable or np.result_type(before, value) != before.dtype:
        out = np.array(np.broadcast_to(before, (count, *shape)), np.result_type(before, value))
    else:
        out = before.copy()
    out[rows] = value
    return out


def together(*parts: AnyArray) -> AnyArray:
    """Return rows from several ways in order."""
    filled = [part for part in parts if len(part)]
    if not filled:
        return np.zeros(0, np.int64)
    return filled[0] if len(filled) == 1 else np.sort(np.concatenate(filled))
