"""The typed intermediate form: what every formula, script and value node is lowered to before it runs."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import TYPE_CHECKING, Any, Literal

from reticula.core.language.parse import Place

if TYPE_CHECKING:
    from reticula.core.geometry.kinds import Kind
    from reticula.core.language.functions import Function

__all__ = [
    "Apply", "Component", "Constant", "Expression", "Found", "Gather", "ListOf", "Query", "Read", "ReadOf", "Walk",
]  # fmt: skip


@dataclass(frozen=True)
class Expression:
    """Base: the type of the value, and where it stands in the source."""

    type: str
    place: Place = field(compare=False)


@dataclass(frozen=True)
class Constant(Expression):
    """A number, flag or text written in the source, or the value of a dial."""

    value: Any


@dataclass(frozen=True)
class Read(Expression):
    """A value that each element of ``kind`` has: an attribute, or a built-in such as ``normal`` or ``index``."""

    kind: Kind
    name: str


@dataclass(frozen=True)
class Apply(Expression):
    """A function or operator applied to values."""

    function: Function
    arguments: tuple[Expression, ...]


@dataclass(frozen=True)
class Component(Expression):
    """Some components of a vector, in the given order (a swizzle)."""

    vector: Expression
    components: tuple[int, ...]


@dataclass(frozen=True)
class ReadOf(Expression):
    """A value of the whole of an input, by the input's name, e.g. ``source.low``."""

    input: str
    name: str


@dataclass(frozen=True)
class Query(Expression):
    """A question to an input: ``closest``, ``nearest`` and ``ray`` give places, ``near`` points, the others a value."""

    input: str
    how: str
    arguments: tuple[Expression, ...]


@dataclass(frozen=True)
class Found(Expression):
    """Something about the places that a query found: ``distance``, ``normal``, or an attribute of ``kind``."""

    query: Query
    name: str
    kind: Kind | None = None


@dataclass(frozen=True)
class ListOf(Expression):
    """The values that the elements around each element have, e.g. ``here.points.cover``. ``type`` is of one value.

    With ``input`` they are elements of ``kind`` of that input: those that ``query`` finds, or all.
    """

    kind: Kind
    around: str
    value: Expression
    input: str = ""
    query: Query | None = None


@dataclass(frozen=True)
class Gather(Expression):
    """A list reduced to one value (mean, sum, ...), or the value at a corner's one point or face."""

    how: Literal["mean", "sum", "min", "max", "median", "deviation", "any", "all", "len", "only"]
    items: ListOf


@dataclass(frozen=True)
class Walk(Expression):
    """The distance along the surface from the points where a flag holds."""

    begin: Expression
