"""The functions and operators of the language: one entry each, with its types, its meaning and how NumPy does it.

Arguments reach an implementation as arrays with the element axis first: ``(N,)`` or ``(1,)`` for numbers and
``(N, k)`` or ``(1, k)`` for vectors. Where numbers meet vectors the numbers arrive as ``(N, 1)``.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np

from reticula.core.arrays import AnyArray
from reticula.core.language import noise

__all__ = ["FUNCTIONS", "OPERATORS", "VECTORS", "Function"]

VECTORS = {"vec2": 2, "vec3": 3, "vec4": 4}
BY_SIZE = {1: "number", 2: "vec2", 3: "vec3", 4: "vec4"}
NUMERIC = ("number", "integer")


@dataclass(frozen=True)
class Function:
    """One function: ``resolve`` maps argument types to (types to convert them to, result type), or None."""

    name: str
    usage: str
    summary: str
    resolve: Callable[[tuple[str, ...]], tuple[tuple[str, ...], str] | None]
    run: Callable[..., AnyArray]
    source: str = ""


FUNCTIONS: dict[str, Function] = {}
OPERATORS: dict[str, Function] = {}

Resolution = tuple[tuple[str, ...], str] | None


def componentwise(counts: tuple[int, ...], *, integers: bool = False) -> Callable[[tuple[str, ...]], Resolution]:
    """Numbers or vectors of one size, mixed freely with numbers; the result has the largest size."""

    def resolve(types: tuple[str, ...]) -> Resolution:
        if len(types) not in counts or any(t not in (*NUMERIC, *VECTORS) for t in types):
            return None
        vectors = {t for t in types if t in VECTORS}
        if len(vectors) > 1:
            return None
        if vectors:
            return tuple(t if t in VECTORS else "number" for t in types), vectors.pop()
        if integers and all(t == "integer" for t in types):
            return types, "integer"
        return ("number",) * len(types), "number"

    return resolve


def exactly(*forms: tuple[tuple[str, ...], str]) -> Callable[[tuple[str, ...]], Resolution]:
    """One of the given forms; an integer passes for a number."""

    def resolve(types: tuple[str, ...]) -> Resolution:
        for wanted, result in forms:
            if len(wanted) == len(types) and all(
                t == w or (t, w) == ("integer", "number") for t, w in zip(types, wanted, strict=True)
            ):
                return wanted, result
        return None

    return resolve


def over_vectors(count: int, result: str | None) -> Callable[[tuple[str, ...]], Resolution]:
    """``count`` vectors of one size, to ``result`` (None: the same type)."""
    return exactly(*(((vector,) * count, result or vector) for vector in VECTORS))


def _add(
    table: dict[str, Function], name: str, usage: str, summary: str, resolve: Any, run: Any, source: str = ""
) -> None:
    table[name] = Function(name, usage, summary, resolve, run, source)


def _build(size: int) -> Callable[[tuple[str, ...]], Resolution]:
    def resolve(types: tuple[str, ...]) -> Resolution:
        wanted = tuple("number" if t == "integer" else t for t in types)
        if any(t != "number" and t not in VECTORS for t in wanted):
            return None
        total = sum(VECTORS.get(t, 1) for t in wanted)
        return (wanted, f"vec{size}") if total == size or (len(wanted) == 1 and total == 1) else None

    return resolve


def _join(size: int) -> Callable[..., AnyArray]:
    def run(*parts: AnyArray) -> AnyArray:
        columns = [part if part.ndim == 2 else part[:, None] for part in parts]
        rows = max(len(column) for column in columns)
        joined = np.concatenate([np.broadcast_to(c, (rows, c.shape[1])) for c in columns], axis=1)
        return np.repeat(joined, size, axis=1) if joined.shape[1] == 1 else joined

    return run


def _same_or_flag(types: tuple[str, ...]) -> Resolution:
    if len(types) != 2:
        return None
    a, b = types
    if a in NUMERIC and b in NUMERIC:
        return (("integer",) * 2 if a == b == "integer" else ("number",) * 2), "flag"
    return (types, "flag") if a == b and a in ("flag", "text") else None


def _divide_whole(function: Callable[..., AnyArray]) -> Callable[..., AnyArray]:
    def run(a: AnyArray, b: AnyArray) -> AnyArray:
        if b.dtype.kind == "i" and (b == 0).any():
            raise ZeroDivisionError
        return function(a, b)

    return run


def _choose(types: tuple[str, ...]) -> Resolution:
    if len(types) != 3 or types[0] != "flag":
        return None
    if types[1] == types[2]:
        return types, types[1]
    both = componentwise((2,), integers=True)(types[1:])
    return (("flag", *((both[1],) * 2)), both[1]) if both else None


def _where(condition: AnyArray, yes: AnyArray, no: AnyArray) -> AnyArray:
    return np.where(condition[:, None] if yes.ndim == 2 else condition, yes, no)


def _dot(a: AnyArray, b: AnyArray) -> AnyArray:
    return (a * b).sum(axis=-1)


def _length(a: AnyArray) -> AnyArray:
    return np.sqrt((a * a).sum(axis=-1))


def _normalize(a: AnyArray) -> AnyArray:
    length = _length(a)[..., None]
    return np.divide(a, length, out=np.zeros_like(a), where=length > 0)


def _smoothstep(low: AnyArray, high: AnyArray, x: AnyArray) -> AnyArray:
    t = np.clip((x - low) / (high - low), 0.0, 1.0)
    return t * t * (3.0 - 2.0 * t)


def _remap(x: AnyArray, a: AnyArray, b: AnyArray, c: AnyArray, d: AnyArray) -> AnyArray:
    return c + np.clip((x - a) / (b - a), 0.0, 1.0) * (d - c)


def _noise(point: AnyArray, octaves: AnyArray | None = None) -> AnyArray:
    space = _in_space(point)
    if octaves is None:
        octaves = np.ones(1, np.int64)
    count = max(len(space), len(octaves)) if len(space) else 0
    octaves = octaves[:count] if len(octaves) > 1 else octaves
    space = np.ascontiguousarray(np.broadcast_to(space, (count, 3)))
    steps = np.ascontiguousarray(np.broadcast_to(np.clip(octaves, 1, 16), (count,)))
    return noise.gradient_noise(space, steps)


def _noise3(point: AnyArray, octaves: AnyArray | None = None) -> AnyArray:
    space = _in_space(point)
    steps = None if octaves is None else octaves.reshape(-1)
    return np.stack([_noise(space + shift, steps) for shift in noise.SHIFTS], axis=1)


def _in_space(point: AnyArray) -> AnyArray:
    columns = point if point.ndim == 2 else point[:, None]
    return np.ascontiguousarray(np.pad(columns, ((0, 0), (0, 3 - columns.shape[1]))))


GLSL = "GLSL 4.60, section 8 (Khronos)"

for _symbol, _summary, _ints, _run in (
    ("+", "sum", True, np.add),
    ("-", "difference", True, np.subtract),
    ("*", "product", True, np.multiply),
    ("/", "quotient", False, np.divide),
    ("//", "quotient rounded down", True, _divide_whole(np.floor_divide)),
    ("%", "remainder, with the sign of the divisor", True, _divide_whole(np.mod)),
    ("**", "power", False, np.power),
):
    _add(OPERATORS, _symbol, f"a {_symbol} b", _summary, componentwise((2,), integers=_ints), _run)
_add(OPERATORS, "negate", "-a", "the value with its sign turned", componentwise((1,), integers=True), np.negative)
for _symbol, _compare in (("<", np.less), ("<=", np.less_equal), (">", np.greater), (">=", np.greater_equal)):
    _numbers = exactly((("integer", "integer"), "flag"), (("number", "number"), "flag"))
    _add(OPERATORS, _symbol, f"a {_symbol} b", "comparison of numbers", _numbers, _compare)
_add(OPERATORS, "==", "a == b", "whether two numbers, flags or texts are the same", _same_or_flag, np.equal)
_add(OPERATORS, "!=", "a != b", "whether two numbers, flags or texts differ", _same_or_flag, np.not_equal)
_add(OPERATORS, "and", "a and b", "both", exactly((("flag", "flag"), "flag")), np.logical_and)
_add(OPERATORS, "or", "a or b", "one or both", exactly((("flag", "flag"), "flag")), np.logical_or)
_add(OPERATORS, "not", "not a", "the other of yes and no", exactly((("flag",), "flag")), np.logical_not)
_add(OPERATORS, "if", "a if condition else b", "one of two values", _choose, _where)

for _name, _summary, _run in (
    ("sin", "sine of an angle in radians", np.sin),
    ("cos", "cosine of an angle in radians", np.cos),
    ("tan", "tangent of an angle in radians", np.tan),
    ("asin", "angle in radians whose sine is x", np.arcsin),
    ("acos", "angle in radians whose cosine is x", np.arccos),
    ("sqrt", "square root", np.sqrt),
    ("exp", "e to the power x", np.exp),
    ("log", "natural logarithm", np.log),
    ("floor", "largest whole number not above x", np.floor),
    ("ceil", "smallest whole number not below x", np.ceil),
    ("round", "nearest whole number, halves to the even one", np.rint),
    ("fract", "x - floor(x)", lambda x: x - np.floor(x)),
    ("radians", "degrees to radians", np.radians),
    ("degrees", "radians to degrees", np.degrees),
):
    _add(FUNCTIONS, _name, f"{_name}(x)", _summary, componentwise((1,)), _run)
_add(FUNCTIONS, "atan", "atan(x)", "angle in radians whose tangent is x", componentwise((1,)), np.arctan)
_add(FUNCTIONS, "atan2", "atan2(y, x)", "angle in radians of the direction (x, y)", componentwise((2,)), np.arctan2)
_add(FUNCTIONS, "abs", "abs(x)", "size without sign", componentwise((1,), integers=True), np.abs)
_add(FUNCTIONS, "sign", "sign(x)", "-1, 0 or 1", componentwise((1,), integers=True), np.sign, GLSL)
_add(
    FUNCTIONS, "min", "min(a, b)", "the smaller, component by component", componentwise((2,), integers=True), np.minimum
)
_add(
    FUNCTIONS, "max", "max(a, b)", "the larger, component by component", componentwise((2,), integers=True), np.maximum
)
_add(FUNCTIONS, "pow", "pow(a, b)", "a to the power b", componentwise((2,)), np.power)
_add(FUNCTIONS, "mod", "mod(a, b)", "remainder, with the sign of b", componentwise((2,)), np.mod, GLSL)
_add(
    FUNCTIONS, "clamp", "clamp(x, low, high)", "x kept within low and high",
    componentwise((3,), integers=True), lambda x, a, b: np.minimum(np.maximum(x, a), b), GLSL,
)  # fmt: skip
_add(
    FUNCTIONS,
    "mix",
    "mix(a, b, t)",
    "a where t is 0, b where t is 1",
    componentwise((3,)),
    lambda a, b, t: a * (1.0 - t) + b * t,
    GLSL,
)
_add(
    FUNCTIONS,
    "step",
    "step(edge, x)",
    "0 below the edge, else 1",
    componentwise((2,)),
    lambda e, x: np.where(x < e, 0.0, 1.0),
    GLSL,
)
_add(
    FUNCTIONS,
    "smoothstep",
    "smoothstep(low, high, x)",
    "0 to 1 without corners",
    componentwise((3,)),
    _smoothstep,
    GLSL,
)
_add(
    FUNCTIONS, "remap", "remap(x, low, high, to_low, to_high)",
    "x moved from one range to another, kept inside it", componentwise((5,)), _remap,
)  # fmt: skip
_add(FUNCTIONS, "dot", "dot(a, b)", "dot product", over_vectors(2, "number"), _dot, GLSL)
_add(FUNCTIONS, "cross", "cross(a, b)", "cross product", exactly((("vec3", "vec3"), "vec3")), np.cross, GLSL)
_add(FUNCTIONS, "length", "length(v)", "length of a vector", over_vectors(1, "number"), _length, GLSL)
_add(
    FUNCTIONS,
    "distance",
    "distance(a, b)",
    "distance of two places",
    over_vectors(2, "number"),
    lambda a, b: _length(a - b),
    GLSL,
)
_add(FUNCTIONS, "normalize", "normalize(v)", "v at length 1; 0 stays 0", over_vectors(1, None), _normalize, GLSL)
_add(
    FUNCTIONS, "reflect", "reflect(v, n)", "v mirrored at the plane with unit normal n",
    over_vectors(2, None), lambda v, n: v - 2.0 * _dot(v, n)[:, None] * n, GLSL,
)  # fmt: skip
for _size in (2, 3, 4):
    _arguments = ", ".join("xyzw"[:_size])
    _add(
        FUNCTIONS,
        f"vec{_size}",
        f"vec{_size}({_arguments})",
        f"a vector of {_size} numbers",
        _build(_size),
        _join(_size),
        GLSL,
    )
_add(
    FUNCTIONS, "number", "number(x)", "yes as 1, no as 0, an integer as a number",
    exactly((("flag",), "number"), (("number",), "number")), lambda x: x.astype(np.float64),
)  # fmt: skip
_add(
    FUNCTIONS, "integer", "integer(x)", "x without its fraction",
    exactly((("integer",), "integer"), (("number",), "integer"), (("flag",), "integer")), lambda x: np.trunc(x).astype(np.int64),
)  # fmt: skip
_add(
    FUNCTIONS, "noise", "noise(p, octaves)",
    "smooth noise in -1..1 at a place; octaves (1 if left out) adds finer detail",
    exactly(*(form for t in ("vec3", "vec2", "number") for form in (((t,), "number"), ((t, "integer"), "number")))),
    _noise, "Perlin, SIGGRAPH 2002",
)  # fmt: skip
_add(
    FUNCTIONS, "noise3", "noise3(p, octaves)",
    "three independent noises in -1..1 as a vector, e.g. to shake positions",
    exactly(*(form for t in ("vec3", "vec2", "number") for form in (((t,), "vec3"), ((t, "integer"), "vec3")))),
    _noise3, "Perlin, SIGGRAPH 2002",
)  # fmt: skip
_add(
    FUNCTIONS, "cell_number", "cell_number(p)", "a random number in 0..1 that is the same all over one of the cells of cells(p)",
    exactly((("vec3",), "number"), (("vec2",), "number"), (("number",), "number")),
    lambda p: noise.cell_labels(_in_space(p)), "Worley, SIGGRAPH 1996",
)  # fmt: skip
_add(
    FUNCTIONS, "cells", "cells(p)", "distance to the nearest of one random centre per unit cell",
    exactly((("vec3",), "number"), (("vec2",), "number"), (("number",), "number")),
    lambda p: noise.cellular(_in_space(p)), "Worley, SIGGRAPH 1996",
)  # fmt: skip
