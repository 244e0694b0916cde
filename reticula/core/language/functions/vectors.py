"""Vectors: lengths, products, mirroring, turning."""

from __future__ import annotations

import numpy as np

from reticula.core.arrays import AnyArray
from reticula.core.language.functions.table import (
    FUNCTIONS,
    GLSL,
    Emitter,
    Values,
    exactly,
    function,
    over_vectors,
)
from reticula.core.language.types import VECTORS

__all__ = ["NAMES"]


def _dot(a: AnyArray, b: AnyArray) -> AnyArray:
    return (a * b).sum(axis=-1)


def _length(a: AnyArray) -> AnyArray:
    return np.sqrt((a * a).sum(axis=-1))


def _normalize(a: AnyArray) -> AnyArray:
    length = _length(a)[..., None]
    return np.divide(a, length, out=np.zeros_like(a), where=length > 0)


def _reflect(v: AnyArray, n: AnyArray) -> AnyArray:
    return v - 2.0 * _dot(v, n)[:, None] * n


def _refract(v: AnyArray, n: AnyArray, ratio: AnyArray) -> AnyArray:
    along = _dot(n, v)
    eta = ratio[:, 0] if ratio.ndim == 2 else ratio
    rest = 1.0 - eta * eta * (1.0 - along * along)
    bent = eta[:, None] * v - (eta * along + np.sqrt(np.maximum(rest, 0.0)))[:, None] * n
    return np.where(rest[:, None] < 0.0, 0.0, bent)


def _faceforward(n: AnyArray, v: AnyArray, seen: AnyArray) -> AnyArray:
    return np.where((_dot(seen, v) < 0.0)[:, None], n, -n)


def _rotate(v: AnyArray, axis: AnyArray, angle: AnyArray) -> AnyArray:
    turn = angle if angle.ndim == 2 else angle[:, None]
    k = _normalize(axis)
    cosine, sine = np.cos(turn), np.sin(turn)
    v, k = np.broadcast_arrays(v, k)
    return v * cosine + np.cross(k, v) * sine + k * (_dot(k, v)[:, None] * (1.0 - cosine))


def sum_of(terms: list[str]) -> str:
    """Return code that adds terms in the order in which NumPy does for up to eight of them."""
    return " + ".join(terms)


def _dot_code(emit: Emitter, values: Values) -> list[str]:
    a, b = values
    return [emit.let(sum_of([f"{x} * {y}" for x, y in zip(a, b, strict=True)]))]


def _length_code(emit: Emitter, values: Values) -> list[str]:
    return [emit.let(f"np.sqrt({sum_of([f'{x} * {x}' for x in values[0]])})")]


def _distance_code(emit: Emitter, values: Values) -> list[str]:
    return _length_code(emit, [[emit.let(f"{x} - {y}") for x, y in zip(*values, strict=True)]])


def _normalize_code(emit: Emitter, values: Values) -> list[str]:
    long = _length_code(emit, values)[0]
    return [emit.let(f"{x} / {long} if {long} > 0.0 else 0.0") for x in values[0]]


def _cross_code(emit: Emitter, values: Values) -> list[str]:
    a, b = values
    return [emit.let(f"{a[i]} * {b[j]} - {a[j]} * {b[i]}") for i, j in ((1, 2), (2, 0), (0, 1))]


def _reflect_code(emit: Emitter, values: Values) -> list[str]:
    v, n = values
    twice = emit.let(f"2.0 * {_dot_code(emit, values)[0]}")
    return [emit.let(f"{x} - {twice} * {y}") for x, y in zip(v, n, strict=True)]


def _refract_code(emit: Emitter, values: Values) -> list[str]:
    v, n, (eta,) = values
    along = _dot_code(emit, [n, v])[0]
    rest = emit.let(f"1.0 - {eta} * {eta} * (1.0 - {along} * {along})")
    share = emit.let(f"{eta} * {along} + np.sqrt(greater({rest}, 0.0))")
    return [emit.let(f"0.0 if {rest} < 0.0 else {eta} * {x} - {share} * {y}") for x, y in zip(v, n, strict=True)]


def _faceforward_code(emit: Emitter, values: Values) -> list[str]:
    n, v, seen = values
    along = _dot_code(emit, [seen, v])[0]
    return [emit.let(f"{x} if {along} < 0.0 else -{x}") for x in n]


def _rotate_code(emit: Emitter, values: Values) -> list[str]:
    v, axis, (angle,) = values
    k = _normalize_code(emit, [axis])
    cosine, sine = emit.let(f"np.cos({angle})"), emit.let(f"np.sin({angle})")
    across, along = _cross_code(emit, [k, v]), _dot_code(emit, [k, v])[0]
    rest = emit.let(f"{along} * (1.0 - {cosine})")
    return [emit.let(f"{v[i]} * {cosine} + {across[i]} * {sine} + {k[i]} * {rest}") for i in range(3)]


_before = set(FUNCTIONS)
function(
    "dot(a, b)", "dot product", over_vectors(2, "number"), _dot, _dot_code, "dot((1, 2, 3), (4, 5, 6)) == 32", GLSL
)
function(
    "cross(a, b)",
    "cross product",
    exactly((("vec3", "vec3"), "vec3")),
    np.cross,
    _cross_code,
    "cross((1, 0, 0), (0, 1, 0)) == (0, 0, 1)",
    GLSL,
)
function(
    "length(v)", "length of a vector", over_vectors(1, "number"), _length, _length_code, "length((3, 4)) == 5", GLSL
)
function(
    "distance(a, b)",
    "distance of two places",
    over_vectors(2, "number"),
    lambda a, b: _length(a - b),
    _distance_code,
    "distance((1, 1), (4, 5)) == 5",
    GLSL,
)
function(
    "normalize(v)",
    "v at length 1; 0 stays 0",
    over_vectors(1, None),
    _normalize,
    _normalize_code,
    "normalize((0, 5, 0)) == (0, 1, 0)",
    GLSL,
)
function(
    "reflect(v, n)",
    "v mirrored at the plane with unit normal n",
    over_vectors(2, None),
    _reflect,
    _reflect_code,
    "reflect((1, -1), (0, 1)) == (1, 1)",
    GLSL,
)
function(
    "refract(v, n, ratio)",
    "unit vector v bent at a surface with unit normal n; 0 where nothing passes",
    exactly(*(((str(t), str(t), "number"), str(t)) for t in VECTORS)),
    _refract,
    _refract_code,
    "refract((0, -1, 0), (0, 1, 0), 0.75) == (0, -1, 0)",
    GLSL,
)
function(
    "faceforward(n, v, seen)",
    "n, or -n where dot(seen, v) is not below 0",
    over_vectors(3, None),
    _faceforward,
    _faceforward_code,
    "faceforward((0, 1), (0, 1), (0, 1)) == (0, -1)",
    GLSL,
)
function(
    "rotate(v, axis, angle)",
    "v turned about an axis through 0, by an angle in radians",
    exactly((("vec3", "vec3", "number"), "vec3")),
    _rotate,
    _rotate_code,
    "rotate((1, 0, 0), (0, 0, 1), pi / 2) == (0, 1, 0)",
    "Rodrigues 1840",
)

NAMES = tuple(name for name in FUNCTIONS if name not in _before)
