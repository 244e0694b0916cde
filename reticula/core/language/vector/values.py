"""Values on whole arrays: their shapes and types, and rows of them."""

from __future__ import annotations

from typing import Any

import numpy as np

from reticula.core.arrays import AnyArray
from reticula.core.language import ir
from reticula.core.language.functions import VECTORS
from reticula.core.language.types import MATRICES
from reticula.core.language.vector.lists import Lists
from reticula.core.spatial.sampling import Sample

__all__ = ["Value", "blank", "dtype_of", "locals_read", "shape_of", "take"]

Value = Any
"""An array with one row per element (or one for all), Lists, or a Sample."""
DTYPE = {"integer": np.int64, "flag": np.bool_, "text": np.str_}


def shape_of(type: str) -> tuple[int, ...]:
    """Return the shape of one value of a type."""
    if type in MATRICES:
        return (MATRICES[type],) * 2
    return (VECTORS[type],) if type in VECTORS else ()


def dtype_of(type: str) -> Any:
    return np.int64 if "@" in type else DTYPE.get(type, np.float64)


def blank(type: str, count: int) -> AnyArray:
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
        if isinstance(part, ir.Expression):
            stack.extend(vars(part).values())
        elif isinstance(part, tuple):
            stack.extend(part)
    return found
