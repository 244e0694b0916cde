"""Matrices: mat3 and mat4. They are written and stored row by row; a product with a vector takes it as a column."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray
from reticula.core.language.functions.table import (
    FUNCTIONS,
    GLSL,
    Code,
    Emitter,
    Values,
    exactly,
    function,
    symbol,
)

__all__ = ["NAMES"]


def _rows(*rows: AnyArray) -> AnyArray:
    return np.stack(np.broadcast_arrays(*rows), axis=1)


def _product(a: AnyArray, b: AnyArray) -> AnyArray:
    if b.ndim == 3:
        return a @ b
    return (a @ b[:, :, None])[:, :, 0]


def _point(m: AnyArray, p: AnyArray) -> AnyArray:
    return (m[:, :3, :3] @ p[:, :, None])[:, :, 0] + m[:, :3, 3]


def _direction(m: AnyArray, v: AnyArray) -> AnyArray:
    return (m[:, :3, :3] @ v[:, :, None])[:, :, 0]


def _determinant(m: AnyArray) -> AnyArray:
    return np.asarray(np.linalg.det(m))


def _inverse(m: AnyArray) -> AnyArray:
    flat = np.linalg.det(m) == 0.0
    safe = np.where(flat[:, None, None], np.eye(m.shape[1]), m)
    return np.where(flat[:, None, None], 0.0, np.linalg.inv(safe))


def _turn(axis: AnyArray, angle: AnyArray) -> AnyArray:
    count = max(len(axis), len(angle))
    long = np.sqrt((axis * axis).sum(axis=1, keepdims=True))
    x, y, z = np.broadcast_to(np.divide(axis, long, out=np.zeros_like(axis), where=long > 0), (count, 3)).T
    c, s = np.cos(angle), np.sin(angle)
    t = 1.0 - c
    rows = [
        [t * x * x + c, t * x * y - s * z, t * x * z + s * y],
        [t * x * y + s * z, t * y * y + c, t * y * z - s * x],
        [t * x * z - s * y, t * y * z + s * x, t * z * z + c],
    ]
    return np.stack([np.stack(row, axis=1) for row in rows], axis=1)


def _size(values: list[str] | tuple[str, ...]) -> int:
    return 3 if len(values) == 9 else 4


def _product_code(emit: Emitter, values: Values) -> list[str]:
    a, b = list(values[0]), list(values[1])
    n = _size(a)
    columns = 1 if len(b) == n else n
    return [
        emit.let(" + ".join(f"{a[n * i + k]} * {b[columns * k + j]}" for k in range(n)))
        for i in range(n)
        for j in range(columns)
    ]


def _rows_code(emit: Emitter, values: Values) -> list[str]:
    return [part for row in values for part in row]


def _transpose_code(emit: Emitter, values: Values) -> list[str]:
    n = _size(list(values[0]))
    return [values[0][n * j + i] for i in range(n) for j in range(n)]


def _affine_code(shift: bool) -> Code:
    def code(emit: Emitter, values: Values) -> list[str]:
        m, p = values
        tail = [f" + {m[4 * i + 3]}" if shift else "" for i in range(3)]
        return [emit.let(" + ".join(f"{m[4 * i + k]} * {p[k]}" for k in range(3)) + tail[i]) for i in range(3)]

    return code


def _call_code(name: str, width: int | None = None) -> Code:
    """Code that calls a compiled helper on all components; its result is a tuple of ``width`` (None: as many as come
    in).
    """

    def code(emit: Emitter, values: Values) -> list[str]:
        parts = [part for value in values for part in value]
        made = emit.let(f"{name}{_size(list(values[0])) if width is None or width == 1 else ''}({', '.join(parts)})")
        count = len(values[0]) if width is None else width
        return [made] if count == 1 else [f"{made}[{i}]" for i in range(count)]

    return code


def _transpose(m: AnyArray) -> AnyArray:
    return m.transpose(0, 2, 1)


_before = set(FUNCTIONS)
symbol(
    "matrix *",
    "a * b",
    "product of matrices, or of a matrix and a vector",
    exactly(*(((m, o), o) for m, v in (("mat3", "vec3"), ("mat4", "vec4")) for o in (m, v))),
    _product,
    _product_code,
)
function(
    "mat3(a, b, c)",
    "a matrix of three rows",
    exactly((("vec3",) * 3, "mat3")),
    _rows,
    _rows_code,
    "mat3((1, 2, 3), (0, 1, 0), (0, 0, 1)) * vec3(1, 1, 1) == (6, 1, 1)",
)
function(
    "mat4(a, b, c, d)",
    "a matrix of four rows",
    exactly((("vec4",) * 4, "mat4")),
    _rows,
    _rows_code,
    "mat4((1, 0, 0, 5), (0, 1, 0, 0), (0, 0, 1, 0), (0, 0, 0, 1)) * vec4(1, 2, 3, 1) == (6, 2, 3, 1)",
)
_SAME = exactly((("mat3",), "mat3"), (("mat4",), "mat4"))
function(
    "transpose(m)",
    "rows and columns exchanged",
    _SAME,
    _transpose,
    _transpose_code,
    "transpose(mat3((1, 2, 3), (4, 5, 6), (7, 8, 9))) * vec3(1, 0, 0) == (1, 2, 3)",
    GLSL,
)
function(
    "inverse(m)",
    "the matrix that undoes m; 0 where there is none",
    _SAME,
    _inverse,
    _call_code("inverse"),
    "inverse(mat3((2, 0, 0), (0, 4, 0), (0, 0, 8))) * vec3(2, 4, 8) == (1, 1, 1)",
    GLSL,
)
function(
    "determinant(m)",
    "by how much m scales a volume",
    exactly((("mat3",), "number"), (("mat4",), "number")),
    _determinant,
    _call_code("determinant", 1),
    "determinant(mat3((2, 0, 0), (0, 3, 0), (0, 0, 4))) == 24",
    GLSL,
)
function(
    "turn(axis, angle)",
    "the matrix that turns about an axis through 0, by an angle in radians",
    exactly((("vec3", "number"), "mat3")),
    _turn,
    _call_code("turn_about", 9),
    "turn((0, 0, 1), pi / 2) * vec3(1, 0, 0) == (0, 1, 0)",
    "Rodrigues 1840",
)
function(
    "transform_point(m, p)",
    "a place moved by a mat4",
    exactly((("mat4", "vec3"), "vec3")),
    _point,
    _affine_code(True),
    "transform_point(mat4((1, 0, 0, 5), (0, 1, 0, 0), (0, 0, 1, 0), (0, 0, 0, 1)), (1, 2, 3)) == (6, 2, 3)",
)
function(
    "transform_direction(m, v)",
    "a direction turned and scaled by a mat4, not moved",
    exactly((("mat4", "vec3"), "vec3")),
    _direction,
    _affine_code(False),
    "transform_direction(mat4((2, 0, 0, 5), (0, 2, 0, 0), (0, 0, 2, 0), (0, 0, 0, 1)), (1, 2, 3)) == (2, 4, 6)",
)

NAMES = tuple(name for name in FUNCTIONS if name not in _before)
