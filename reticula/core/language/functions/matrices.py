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
from reticula.core.language.math_kernels import of_one
from reticula.core.language.matrix_kernels import determinants, inverses

__all__ = ["NAMES"]

COS, SIN = of_one("cos"), of_one("sin")


def _rows(*rows: AnyArray) -> AnyArray:
    return np.stack(np.broadcast_arrays(*rows), axis=1)


def _product(a: AnyArray, b: AnyArray) -> AnyArray:
    """Products summed from the first to the last, as compiled code does."""
    columns = b if b.ndim == 3 else b[:, :, None]
    made = a[:, :, 0, None] * columns[:, None, 0]
    for k in range(1, a.shape[2]):
        made = made + a[:, :, k, None] * columns[:, None, k]
    return made if b.ndim == 3 else made[:, :, 0]


def _point(m: AnyArray, p: AnyArray) -> AnyArray:
    return _product(m[:, :3, :3], p) + m[:, :3, 3]


def _direction(m: AnyArray, v: AnyArray) -> AnyArray:
    return _product(m[:, :3, :3], v)


def _determinant(m: AnyArray) -> AnyArray:
    return determinants(np.ascontiguousarray(m, np.float64))


def _inverse(m: AnyArray) -> AnyArray:
    return inverses(np.ascontiguousarray(m, np.float64))


def _turn(axis: AnyArray, angle: AnyArray) -> AnyArray:
    count = max(len(axis), len(angle))
    long = np.sqrt((axis * axis).sum(axis=1, keepdims=True))
    x, y, z = np.broadcast_to(np.divide(axis, long, out=np.zeros_like(axis), where=long > 0), (count, 3)).T
    c, s = COS(angle), SIN(angle)
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
