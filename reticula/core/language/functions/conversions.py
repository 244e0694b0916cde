"""From one type to another: vectors from parts, numbers from flags, whole numbers from numbers."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from reticula.core.arrays import AnyArray
from reticula.core.geometry.mesh.attribute_types import vector_type
from reticula.core.language.functions.table import FUNCTIONS, GLSL, Code, Emitter, Resolution, Values, exactly, function
from reticula.core.language.types import INTEGER, NUMBER, VECTORS, Type

__all__ = ["NAMES"]


def _build(size: int) -> Callable[[tuple[Type, ...]], Resolution]:
    def resolve(types: tuple[Type, ...]) -> Resolution:
        wanted = tuple(NUMBER if t is INTEGER else t for t in types)
        if any(t is not NUMBER and t not in VECTORS for t in wanted):
            return None
        total = sum(VECTORS.get(t, 1) for t in wanted)
        return (wanted, vector_type(size)) if total == size or (len(wanted) == 1 and total == 1) else None

    return resolve


def _join(size: int) -> Callable[..., AnyArray]:
    def run(*parts: AnyArray) -> AnyArray:
        columns = [part if part.ndim == 2 else part[:, None] for part in parts]
        rows = np.broadcast_shapes(*((len(column),) for column in columns))[0]
        joined = np.concatenate([np.broadcast_to(c, (rows, c.shape[1])) for c in columns], axis=1)
        return np.repeat(joined, size, axis=1) if joined.shape[1] == 1 else joined

    return run


def _join_code(size: int) -> Code:
    def code(emit: Emitter, values: Values) -> list[str]:
        parts = [part for value in values for part in value]
        return parts * size if len(parts) == 1 else parts

    return code


def _whole(x: AnyArray) -> AnyArray:
    if x.dtype.kind != "f":
        return x.astype(np.int64)
    kept = np.where(np.isfinite(x), np.clip(x, -(2.0**62), 2.0**62), 0.0)
    return np.trunc(kept).astype(np.int64)


_before = set(FUNCTIONS)
for _size in (2, 3, 4):
    _letters = ", ".join("xyzw"[:_size])
    function(
        f"vec{_size}({_letters})",
        f"a vector of {_size} numbers, from numbers and vectors, or one number for all",
        _build(_size),
        _join(_size),
        _join_code(_size),
        f"vec{_size}(2) == ({', '.join('2' * _size)})",
        GLSL,
    )
function(
    "number(x)",
    "yes as 1, no as 0, an integer as a number",
    exactly((("flag",), "number"), (("number",), "number")),
    lambda x: x.astype(np.float64),
    "1.0 * {0}",
    "number(3 > 2) == 1",
)
function(
    "integer(x)",
    "x without its fraction; yes as 1, no as 0",
    exactly((("integer",), "integer"), (("number",), "integer"), (("flag",), "integer")),
    _whole,
    "whole_of({0})",
    "integer(-2.9) == -2",
    "Python, int",
)

NAMES = tuple(name for name in FUNCTIONS if name not in _before)
