"""What a function is, how its types are found, and the two tables that all families fill.

Arguments reach an implementation as arrays with the element axis first: ``(N,)`` or ``(1,)`` for numbers, ``(N, k)`` or
``(1, k)`` for vectors, ``(N, k, k)`` for matrices. Where numbers meet vectors the numbers arrive as ``(N, 1)``.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any, Protocol

from reticula.core.arrays import AnyArray
from reticula.core.geometry.mesh.attribute_types import TYPES
from reticula.core.language.types import INTEGER, NUMBER, NUMERIC, VECTORS, Type

__all__ = [
    "FUNCTIONS",
    "GLSL",
    "MATH",
    "OPERATORS",
    "Code",
    "Emitter",
    "Function",
    "Resolution",
    "componentwise",
    "exactly",
    "function",
    "over_vectors",
    "symbol",
]

GLSL = "GLSL 4.60, section 8 (Khronos)"
MATH = "Python, module math"
Resolution = tuple[tuple[Type, ...], Type] | None
Values = Sequence[Sequence[str]]


class Emitter(Protocol):
    """Where compiled code is written to: ``let`` puts a value into a new name and returns the name."""

    def let(self, code: str) -> str: ...


Code = str | Callable[[Emitter, Values], list[str]]
"""How compiled code does it: a template over the components ``{0}``, ``{1}``…, or a function over all components."""


@dataclass(frozen=True)
class Function:
    """One function: ``resolve`` maps argument types to (types to convert them to, result type), or None.

    ``code`` is how it is compiled; ``whole`` is the template for integers where it differs. One that ``fails`` may stop
    the program, "always" or where its result is of a type, so that it must not run where its result is not needed.
    """

    name: str
    usage: str
    summary: str
    resolve: Callable[[tuple[Type, ...]], Resolution]
    run: Callable[..., AnyArray]
    code: Code
    source: str = ""
    example: str = ""
    whole: str = ""
    fails: str = ""


FUNCTIONS: dict[str, Function] = {}
OPERATORS: dict[str, Function] = {}


def function(
    usage: str,
    summary: str,
    resolve: Callable[[tuple[Type, ...]], Resolution],
    run: Callable[..., AnyArray],
    code: Code,
    example: str,
    source: str = "",
    **more: Any,
) -> None:
    """Add a function to the table. ``example`` is a formula and its value, ``mix(2, 4, 0.5) == 3``."""
    name = usage.split("(")[0]
    FUNCTIONS[name] = Function(name, usage, summary, resolve, run, code, source, example, **more)


def symbol(
    name: str,
    usage: str,
    summary: str,
    resolve: Callable[[tuple[Type, ...]], Resolution],
    run: Callable[..., AnyArray],
    code: Code,
    **more: Any,
) -> None:
    """Add an operator to the table."""
    OPERATORS[name] = Function(name, usage, summary, resolve, run, code, **more)


def componentwise(
    *counts: int, integers: bool = False, vectors: bool = True
) -> Callable[[tuple[Type, ...]], Resolution]:
    """Numbers or vectors of one size, mixed freely with numbers; the result has the largest size."""

    def resolve(types: tuple[Type, ...]) -> Resolution:
        if len(types) not in counts or any(t not in NUMERIC and not (vectors and t in VECTORS) for t in types):
            return None
        wide = {t for t in types if t in VECTORS}
        if len(wide) > 1:
            return None
        if wide:
            return tuple(t if t in VECTORS else NUMBER for t in types), wide.pop()
        if integers and all(t is INTEGER for t in types):
            return types, INTEGER
        return (NUMBER,) * len(types), NUMBER

    return resolve


def exactly(*named: tuple[tuple[str, ...], str]) -> Callable[[tuple[Type, ...]], Resolution]:
    """One of the given forms, written by the names of their types; an integer passes for a number."""
    forms = [(tuple(TYPES[name] for name in wanted), TYPES[result]) for wanted, result in named]

    def resolve(types: tuple[Type, ...]) -> Resolution:
        for wanted, result in forms:
            if len(wanted) == len(types) and all(
                t is w or (t is INTEGER and w is NUMBER) for t, w in zip(types, wanted, strict=True)
            ):
                return wanted, result
        return None

    return resolve


def over_vectors(count: int, result: str | None) -> Callable[[tuple[Type, ...]], Resolution]:
    """``count`` vectors of one size, to ``result`` (None: the same type)."""
    return exactly(*(((str(vector),) * count, result or str(vector)) for vector in VECTORS))
