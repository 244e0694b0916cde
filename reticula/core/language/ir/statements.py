"""Statements of the intermediate form, functions, and the program that they make up."""

from __future__ import annotations

from dataclasses import dataclass, field

from reticula.core.geometry.mesh.kinds import Kind
from reticula.core.language.ir.expressions import Expression
from reticula.core.language.parse import Place

__all__ = [
    "Add",
    "Append",
    "Assign",
    "Break",
    "Continue",
    "Do",
    "For",
    "If",
    "Print",
    "Program",
    "Remove",
    "Return",
    "Routine",
    "SetItem",
    "Statement",
    "While",
    "Write",
]


@dataclass(frozen=True)
class Statement:
    """Base of what is done, and where it stands."""

    place: Place = field(compare=False)


@dataclass(frozen=True)
class Assign(Statement):
    """A local name gets a value."""

    name: str
    value: Expression


@dataclass(frozen=True)
class SetItem(Statement):
    """An item of a local list gets a value."""

    name: str
    index: Expression
    value: Expression


@dataclass(frozen=True)
class Append(Statement):
    """A value goes to the end of a local list."""

    name: str
    value: Expression


@dataclass(frozen=True)
class Write(Statement):
    """An attribute of this element gets a value."""

    name: str
    value: Expression


@dataclass(frozen=True)
class Add(Statement):
    """An attribute of some other element is set (``=``, the last one counts) or added to (``+=``)."""

    element: Expression
    name: str
    sums: bool
    value: Expression


@dataclass(frozen=True)
class Remove(Statement):
    """An element goes."""

    element: Expression


@dataclass(frozen=True)
class Print(Statement):
    """Shows values of the element that is looked at."""

    values: tuple[Expression, ...]


@dataclass(frozen=True)
class Do(Statement):
    """A value is worked out for what it makes."""

    value: Expression


@dataclass(frozen=True)
class If(Statement):
    """One of two blocks."""

    test: Expression
    body: tuple[Statement, ...]
    otherwise: tuple[Statement, ...]


@dataclass(frozen=True)
class For(Statement):
    """A block for each item of a list, which the block sees as ``name``."""

    name: str
    items: Expression
    body: tuple[Statement, ...]


@dataclass(frozen=True)
class While(Statement):
    """A block as long as something holds."""

    test: Expression
    body: tuple[Statement, ...]


@dataclass(frozen=True)
class Break(Statement):
    """Leaves the loop."""


@dataclass(frozen=True)
class Continue(Statement):
    """Goes on with the next round of the loop."""


@dataclass(frozen=True)
class Return(Statement):
    """Leaves the function, with a value or without."""

    value: Expression | None


@dataclass(frozen=True)
class Routine:
    """One variant of a function of the script. ``locals`` has the types of all its names, parameters included."""

    name: str
    parameters: tuple[str, ...]
    locals: dict[str, str]
    body: tuple[Statement, ...]
    result: str


@dataclass(frozen=True)
class Program:
    """A script after checking.

    ``writes`` has the type of each attribute of the element itself that is written; ``adds`` of those of others, by
    kind, name and whether they are sums; ``result`` is the value of a formula.
    """

    kind: Kind
    body: tuple[Statement, ...]
    locals: dict[str, str]
    routines: dict[str, Routine]
    writes: dict[str, str]
    adds: dict[tuple[str, str, bool], str]
    result: Expression | None = None
