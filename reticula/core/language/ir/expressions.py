"""Expressions of the intermediate form. They compare equal when they mean the same, wherever they stand."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

from reticula.core.geometry.mesh.kinds import Kind
from reticula.core.language.functions import Function
from reticula.core.language.parse import Place
from reticula.core.language.questions.question import Question
from reticula.core.language.types import Type

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
    "ExpressionNode",
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
class ExpressionNode:
    """Base: the type of the value (see :mod:`.types`), and where it stands in the source."""

    type: Type
    place: Place = field(compare=False)


@dataclass(frozen=True)
class Constant(ExpressionNode):
    """A number, flag or text written in the source."""

    value: Any


@dataclass(frozen=True)
class External(ExpressionNode):
    """A value that is handed in when the program runs: a control, a dial, or another node's parameter."""

    name: str


@dataclass(frozen=True)
class Local(ExpressionNode):
    """A value that the script named itself."""

    name: str


@dataclass(frozen=True)
class Here(ExpressionNode):
    """The element itself."""


@dataclass(frozen=True)
class Read(ExpressionNode):
    """A value that each element of ``kind`` has: an attribute, or a built-in such as ``normal`` or ``index``."""

    kind: Kind
    name: str


@dataclass(frozen=True)
class ReadAt(ExpressionNode):
    """A value of another element."""

    element: Expression
    name: str


@dataclass(frozen=True)
class ReadOf(ExpressionNode):
    """A value of the whole of an input, by the input's name, e.g. ``source.low``."""

    input: str
    name: str


@dataclass(frozen=True)
class Adjacent(ExpressionNode):
    """The elements around an element, by word (``points``, ``neighbours``); a single one where there is only one."""

    element: Expression
    word: str


@dataclass(frozen=True)
class All(ExpressionNode):
    """All elements of a kind of an input; no input means the geometry that the program runs on."""

    input: str
    kind: Kind


@dataclass(frozen=True)
class Query(ExpressionNode):
    """A question to an input: ``closest``, ``nearest`` and ``ray`` give places, ``near`` points, the others a value."""

    input: str
    question: Question
    arguments: tuple[Expression, ...]


@dataclass(frozen=True)
class PlaceField(ExpressionNode):
    """Something about a place: ``distance``, ``normal``, or an attribute of ``kind``."""

    where: Expression
    name: str
    kind: Kind | None = None


@dataclass(frozen=True)
class EachField(ExpressionNode):
    """The values that the elements of a list have, e.g. ``here.points.cover``: a list."""

    items: Expression
    name: str


@dataclass(frozen=True)
class Part(ExpressionNode):
    """Some components of every vector of a list."""

    items: Expression
    components: tuple[int, ...]


@dataclass(frozen=True)
class Apply(ExpressionNode):
    """A function or operator applied to values. ``and``, ``or`` and ``if`` look only at what they need."""

    function: Function
    arguments: tuple[Expression, ...]


@dataclass(frozen=True)
class Component(ExpressionNode):
    """Some components of a vector, in the given order (a swizzle)."""

    vector: Expression
    components: tuple[int, ...]


@dataclass(frozen=True)
class Reduce(ExpressionNode):
    """A list as one value: mean, sum, min, max, median, deviation, any, all or len."""

    how: str
    items: Expression


@dataclass(frozen=True)
class Item(ExpressionNode):
    """One item of a list; negative numbers count from its end."""

    items: Expression
    index: Expression


@dataclass(frozen=True)
class Listing(ExpressionNode):
    """A list written out."""

    parts: tuple[Expression, ...]


@dataclass(frozen=True)
class Concatenated(ExpressionNode):
    """Two lists, one after the other."""

    first: Expression
    second: Expression


@dataclass(frozen=True)
class Span(ExpressionNode):
    """The whole numbers from ``begin`` up to, not including, ``end``."""

    begin: Expression
    end: Expression
    step: Expression


@dataclass(frozen=True)
class Comprehension(ExpressionNode):
    """A list made from another one: ``value`` for each item, named ``name``, for which ``condition`` holds."""

    name: str
    items: Expression
    condition: Expression | None
    value: Expression


@dataclass(frozen=True)
class Walk(ExpressionNode):
    """The distance along the surface from the points where a flag holds."""

    begin: Expression


@dataclass(frozen=True)
class Profile(ExpressionNode):
    """A response curve or gradient, a control of this name, asked at a number."""

    name: str
    at: Expression


@dataclass(frozen=True)
class MakePoint(ExpressionNode):
    """Makes a point, with the attributes of the point ``like`` if there is one; gives the point."""

    position: Expression
    like: Expression | None


@dataclass(frozen=True)
class MakeChain(ExpressionNode):
    """Makes a curve or a face through a list of points; gives it."""

    points: Expression
    closed: Expression | None


@dataclass(frozen=True)
class Call(ExpressionNode):
    """A function of the script, in the variant for these types, applied to values. Type ``nothing``: it gives none."""

    routine: str
    arguments: tuple[Expression, ...]


Expression = (
    Constant
    | External
    | Local
    | Here
    | Read
    | ReadAt
    | ReadOf
    | Adjacent
    | All
    | Query
    | PlaceField
    | EachField
    | Part
    | Apply
    | Component
    | Reduce
    | Item
    | Listing
    | Concatenated
    | Span
    | Comprehension
    | Walk
    | Profile
    | MakePoint
    | MakeChain
    | Call
)
"""Any of them: who goes through all must have an answer for each, which the type checker sees to."""
