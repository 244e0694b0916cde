"""Expressions of the intermediate form. They compare equal when they mean the same, wherever they stand."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

from reticula.core.geometry.mesh.kinds import Kind
from reticula.core.language.functions import Function
from reticula.core.language.parse import Place

__all__ = [
    "Adjacent",
    "All",
    "Apply",
    "Call",
    "Component",
    "Comprehension",
    "Concatenated",
    "Constant",
    "EachField",
    "Expression",
    "External",
    "Here",
    "Item",
    "Listing",
    "Local",
    "MakeChain",
    "MakePoint",
    "Part",
    "PlaceField",
    "Profile",
    "Query",
    "Read",
    "ReadAt",
    "ReadOf",
    "Reduce",
    "Span",
    "Walk",
]


@dataclass(frozen=True)
class Expression:
    """Base: the type of the value (see :mod:`.types`), and where it stands in the source."""

    type: str
    place: Place = field(compare=False)


@dataclass(frozen=True)
class Constant(Expression):
    """A number, flag or text written in the source."""

    value: Any


@dataclass(frozen=True)
class External(Expression):
    """A value that is handed in when the program runs: a control, a dial, or another node's parameter."""

    name: str


@dataclass(frozen=True)
class Local(Expression):
    """A value that the script named itself."""

    name: str


@dataclass(frozen=True)
class Here(Expression):
    """The element itself."""


@dataclass(frozen=True)
class Read(Expression):
    """A value that each element of ``kind`` has: an attribute, or a built-in such as ``normal`` or ``index``."""

    kind: Kind
    name: str


@dataclass(frozen=True)
class ReadAt(Expression):
    """A value of another element."""

    element: Expression
    name: str


@dataclass(frozen=True)
class ReadOf(Expression):
    """A value of the whole of an input, by the input's name, e.g. ``source.low``."""

    input: str
    name: str


@dataclass(frozen=True)
class Adjacent(Expression):
    """The elements around an element, by word (``points``, ``neighbours``); a single one where there is only one."""

    element: Expression
    word: str


@dataclass(frozen=True)
class All(Expression):
    """All elements of a kind of an input; no input means the geometry that the program runs on."""

    input: str
    kind: Kind


@dataclass(frozen=True)
class Query(Expression):
    """A question to an input: ``closest``, ``nearest`` and ``ray`` give places, ``near`` points, the others a value."""

    input: str
    how: str
    arguments: tuple[Expression, ...]


@dataclass(frozen=True)
class PlaceField(Expression):
    """Something about a place: ``distance``, ``normal``, or an attribute of ``kind``."""

    where: Expression
    name: str
    kind: Kind | None = None


@dataclass(frozen=True)
class EachField(Expression):
    """The values that the elements of a list have, e.g. ``here.points.cover``: a list."""

    items: Expression
    name: str


@dataclass(frozen=True)
class Part(Expression):
    """Some components of every vector of a list."""

    items: Expression
    components: tuple[int, ...]


@dataclass(frozen=True)
class Apply(Expression):
    """A function or operator applied to values. ``and``, ``or`` and ``if`` look only at what they need."""

    function: Function
    arguments: tuple[Expression, ...]


@dataclass(frozen=True)
class Component(Expression):
    """Some components of a vector, in the given order (a swizzle)."""

    vector: Expression
    components: tuple[int, ...]


@dataclass(frozen=True)
class Reduce(Expression):
    """A list as one value: mean, sum, min, max, median, deviation, any, all or len."""

    how: str
    items: Expression


@dataclass(frozen=True)
class Item(Expression):
    """One item of a list; negative numbers count from its end."""

    items: Expression
    index: Expression


@dataclass(frozen=True)
class Listing(Expression):
    """A list written out."""

    parts: tuple[Expression, ...]


@dataclass(frozen=True)
class Concatenated(Expression):
    """Two lists, one after the other."""

    first: Expression
    second: Expression


@dataclass(frozen=True)
class Span(Expression):
    """The whole numbers from ``begin`` up to, not including, ``end``."""

    begin: Expression
    end: Expression
    step: Expression


@dataclass(frozen=True)
class Comprehension(Expression):
    """A list made from another one: ``value`` for each item, named ``name``, for which ``condition`` holds."""

    name: str
    items: Expression
    condition: Expression | None
    value: Expression


@dataclass(frozen=True)
class Walk(Expression):
    """The distance along the surface from the points where a flag holds."""

    begin: Expression


@dataclass(frozen=True)
class Profile(Expression):
    """A response curve or gradient, a control of this name, asked at a number."""

    name: str
    at: Expression


@dataclass(frozen=True)
class MakePoint(Expression):
    """Makes a point, with the attributes of the point ``like`` if there is one; gives the point."""

    position: Expression
    like: Expression | None


@dataclass(frozen=True)
class MakeChain(Expression):
    """Makes a curve or a face through a list of points; gives it."""

    points: Expression
    closed: Expression | None


@dataclass(frozen=True)
class Call(Expression):
    """A function of the script, in the variant for these types, applied to values. Type ``nothing``: it gives none."""

    routine: str
    arguments: tuple[Expression, ...]
