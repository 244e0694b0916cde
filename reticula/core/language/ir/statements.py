"""Statements of the intermediate form, functions, and the program that they make up."""

from __future__ import annotations

from dataclasses import dataclass, field

from reticula.core.geometry.mesh.kinds import Kind
from reticula.core.language.ir.expressions import Expression
from reticula.core.language.parse import Place
from reticula.core.language.types import Type

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
    "StatementNode",
    "While",
    "Write",
]


@dataclass(frozen=True)
class StatementNode:
    """Base of what is done, and where it stands."""

    place: Place = field(compare=False)


@dataclass(frozen=True)
class Assign(StatementNode):
    """A local name gets a value."""

    name: str
    value: Expression


@dataclass(frozen=True)
class SetItem(StatementNode):
    """An item of a local list gets a value."""

    name: str
    index: Expression
    value: Expression


@dataclass(frozen=True)
class Append(StatementNode):
    """A value goes to the end of a local list."""

    name: str
    value: Expression


@dataclass(frozen=True)
class Write(StatementNode):
    """An attribute of this element gets a value."""

    name: str
    value: Expression


@dataclass(frozen=True)
class Add(StatementNode):
    """An attribute of some other element is set (``=``, the last one counts) or added to (``+=``)."""

    element: Expression
    name: str
    sums: bool
    value: Expression


@dataclass(frozen=True)
class Remove(StatementNode):
    """An element goes."""

    element: Expression


@dataclass(frozen=True)
class Print(StatementNode):
    """Shows values of the element that is looked at."""

    values: tuple[Expression, ...]


@dataclass(frozen=True)
class Do(StatementNode):
    """A value is worked out for what it makes."""

    value: Expression


@dataclass(frozen=True)
class If(StatementNode):
    """One of two blocks."""

    test: Expression
    body: tuple[Statement, ...]
    otherwise: tuple[Statement, ...]


@dataclass(frozen=True)
class For(StatementNode):
    """A block for each item of a list, which the block sees as ``name``."""

    name: str
    items: Expression
    body: tuple[Statement, ...]


@dataclass(frozen=True)
class While(StatementNode):
    """A block as long as something holds."""

    test: Expression
    body: tuple[Statement, ...]


@dataclass(frozen=True)
class Break(StatementNode):
    """Leaves the loop."""


@dataclass(frozen=True)
class Continue(StatementNode):
    """Goes on with the next round of the loop."""


@dataclass(frozen=True)
class Return(StatementNode):
    """Leaves the function, with a value or without."""

    value: Expression | None


Statement = Assign | SetItem | Append | Write | Add | Remove | Print | Do | If | For | While | Break | Continue | Return
"""Any of them."""


@dataclass(frozen=True)
class Routine:
    """One variant of a function of the script. ``locals`` has the types of all its names, parameters included."""

    name: str
    parameters: tuple[str, ...]
    locals: dict[str, Type]
    body: tuple[Statement, ...]
    result: Type


@dataclass(frozen=True)
class Program:
    """A script after checking.

    ``writes`` has the type of each attribute of the element itself that is written; ``adds`` of those of others, by
    kind, name and whether they are sums; ``result`` is the value of a formula.
    """

    kind: Kind
    body: tuple[Statement, ...]
    locals: dict[str, Type]
    routines: dict[str, Routine]
    writes: dict[str, Type]
    adds: dict[tuple[str, str, bool], Type]
    result: Expression | None = None
