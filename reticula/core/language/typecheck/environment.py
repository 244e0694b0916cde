"""What all parts of the checker share: names and their types, conversions that lose nothing, errors with their
place.
"""

from __future__ import annotations

import ast
from collections.abc import Collection
from dataclasses import dataclass, field
from difflib import get_close_matches
from typing import Any, NoReturn

import numpy as np

from reticula.core.errors import FormulaError
from reticula.core.geometry.mesh.attribute_types import vector_type
from reticula.core.geometry.mesh.kinds import PLURAL, Kind
from reticula.core.language import ir
from reticula.core.language.asked_elements import ASKED
from reticula.core.language.functions import FUNCTIONS, Function
from reticula.core.language.parse import Place
from reticula.core.language.scope import AROUND, CONSTANTS, TIMELINE, Scope
from reticula.core.language.types import (
    FLAG,
    INTEGER,
    NUMBER,
    NUMERIC,
    TEXT,
    UNKNOWN_LIST,
    VEC3,
    VEC4,
    VECTORS,
    ElementOf,
    Type,
    in_words,
    is_list,
    item_of,
)

__all__ = ["MAKERS", "Checker", "Frame", "as_vector", "convert", "join_types", "may_change"]

MAKERS = {
    "add_point": "add_point(position, like)",
    "add_curve": "add_curve(points, closed)",
    "add_face": "add_face(points)",
    "add_segments": "add_segments(points)",
}
"""What makes elements, as it is written."""
WIDEST_INTEGER = 2**63


@dataclass
class Frame:
    """The names of the text, or of one of its functions: their types, and where the flow has given them a value."""

    types: dict[str, Type] = field(default_factory=dict)
    defined: set[str] = field(default_factory=set)
    maybe: set[str] = field(default_factory=set)
    aliases: dict[str, str] = field(default_factory=dict)
    hidden: int = 0


def convert(expression: ir.Expression, wanted: Type) -> ir.Expression | None:
    """Return the expression as type ``wanted`` where that loses nothing, else None."""
    if expression.type == wanted:
        return expression
    if expression.type is INTEGER and wanted is NUMBER:
        return ir.Apply(NUMBER, expression.place, FUNCTIONS["number"], (expression,))
    if expression.type in NUMERIC and wanted in VECTORS:
        number = convert(expression, NUMBER)
        assert number is not None
        return ir.Apply(wanted, expression.place, FUNCTIONS[str(wanted)], (number,))
    if expression.type is VEC3 and wanted is VEC4:
        one = ir.Constant(NUMBER, expression.place, 1.0)
        return ir.Apply(VEC4, expression.place, FUNCTIONS["vec4"], (expression, one))
    if isinstance(expression, ir.Listing) and wanted in VECTORS and len(expression.parts) == VECTORS[wanted]:
        parts = [convert(part, NUMBER) if part.type in NUMERIC else None for part in expression.parts]
        known = tuple(part for part in parts if part is not None)
        if len(known) == len(parts):
            return ir.Apply(wanted, expression.place, FUNCTIONS[str(wanted)], known)
    if is_list(wanted) and isinstance(expression, ir.Listing):
        each = [convert(part, item_of(wanted)) for part in expression.parts]
        items = tuple(part for part in each if part is not None)
        if len(items) == len(each):
            return ir.Listing(wanted, expression.place, items)
    return None


def as_vector(expression: ir.Expression) -> ir.Expression:
    """Read a list of two to four numbers that is written out as a vector."""
    if isinstance(expression, ir.Listing) and len(expression.parts) in (2, 3, 4):
        return convert(expression, vector_type(len(expression.parts))) or expression
    return expression


def join_types(a: Type, b: Type) -> Type | None:
    """Return the type that takes both without loss, or None."""
    if a == b:
        return a
    if is_list(a) and is_list(b):
        return b if a == UNKNOWN_LIST else a if b == UNKNOWN_LIST else None
    for first, second in ((a, b), (b, a)):
        if first in NUMERIC and second is NUMBER:
            return NUMBER
        if first in NUMERIC and second in VECTORS:
            return second
    return VEC4 if {a, b} == {VEC3, VEC4} else None


class Checker:
    """Base of the checker: the text, what it can read, and the names that it has given values. What stands in
    ``frame`` comes
    before controls, dials and attributes."""

    def __init__(self, source: str, scope: Scope) -> None:
        self.source = source
        self.scope = scope
        self.frame = Frame()

    # ---- what may stand in an expression

    def lower(self, node: ast.expr) -> ir.Expression:
        """Return the typed form of an expression."""
        raise NotImplementedError

    def apply(self, function: Function, arguments: tuple[ir.Expression, ...], place: Place) -> ir.Expression:
        """Apply a function to values of types that it takes."""
        raise NotImplementedError

    def written_here(self) -> Collection[str]:
        """The attributes of the element that the text has written so far."""
        return ()

    def argument(self, given: ir.Expression, wanted: Type, usage: str) -> ir.Expression:
        converted = convert(given, wanted)
        if converted is None:
            self.fail(f"this is {in_words(given.type)}, but {in_words(wanted)} is wanted; write {usage}", given.place)
        return converted

    def constant(self, value: Any, place: Place) -> ir.Constant:
        if isinstance(value, bool):
            return ir.Constant(FLAG, place, value)
        if isinstance(value, int):
            if abs(value) >= WIDEST_INTEGER:
                self.fail("this whole number is too large; write it with a decimal point", place)
            return ir.Constant(INTEGER, place, value)
        if isinstance(value, float):
            if not np.isfinite(value):
                self.fail("this number is too large", place)
            return ir.Constant(NUMBER, place, value)
        return ir.Constant(TEXT, place, str(value))

    def name(self, name: str, place: Place) -> ir.Expression:
        frame = self.frame
        if name in frame.aliases:
            return ir.Local(frame.types[frame.aliases[name]], place, frame.aliases[name])
        if name in frame.defined:
            return ir.Local(frame.types[name], place, name)
        if name in frame.maybe:
            self.fail(f"'{name}' has no value yet on some way to this line; give it one before, e.g. {name} = 0", place)
        if name in self.scope.profiles:
            self.fail(f"'{name}' is a curve or gradient; ask it at a number, e.g. {name}(fraction)", place)
        if name in self.scope.dials:
            return self.given_value(name, self.scope.dials[name], place)
        found = self.scope.type_of(self.scope.kind, name)
        if found:
            return self.read(self.scope.kind, name, found, place)
        whole = self.scope.type_of("whole", name) if self.scope.geo.has("whole", name) else None
        if whole:
            return self.read("whole", name, whole, place)
        if name in CONSTANTS:
            return ir.Constant(NUMBER, place, CONSTANTS[name])
        if name in TIMELINE:
            return self.given_value(name, TIMELINE[name], place)
        if name == "here":
            return ir.Here(ElementOf(self.scope.kind), place)
        self.unknown(name, place)

    def given_value(self, name: str, value: Any, place: Place) -> ir.External:
        """A value handed in from outside: its type is fixed, its value is not part of the program."""
        if isinstance(value, (list, tuple)):
            type: Type = vector_type(len(value))
        else:
            type = self.constant(value, place).type
        return ir.External(type, place, name)

    def read(self, kind: Kind, name: str, type: Type, place: Place) -> ir.Expression:
        return ir.Read(type, place, kind, name)

    def unknown(self, name: str, place: Place) -> NoReturn:
        kind = self.scope.kind
        if name in self.scope.inputs:
            self.fail(f"'{name}' is a geometry; ask it something, e.g. {name}.closest(position).distance", place)
        if name in self.scope.ties:
            there = ", ".join(f"{name}.{word}" for word in self.scope.ties[name]) or "nothing"
            self.fail(f"'{name}' is a node of the graph; name one of its parameters: {there}", place)
        if name in FUNCTIONS:
            self.fail(f"'{name}' is a function: write {FUNCTIONS[name].usage}", place)
        close = get_close_matches(name, [*self.frame.defined, *self.scope.names(kind), *CONSTANTS], 3, 0.5)
        elsewhere = [other for other in self.scope.kinds_with(name) if other != kind]
        if elsewhere:
            other = elsewhere[0]
            words = [word for word, leads in AROUND[kind].items() if leads == other]
            text = f"'{name}' belongs to each {other}, and this runs on each {kind}"
            if words and kind == "corner":
                text += f"; write here.{words[0]}.{name}"
            elif words:
                text += f"; write e.g. mean(here.{words[0]}.{name}) or any(here.{words[0]}.{name})"
            elif kind == "whole" and other in ASKED.values():
                plural = next(word for word, known in ASKED.items() if known == other)
                text = f"'{name}' belongs to each {other}, and this runs once; write e.g. mean(geo.{plural}.{name})"
        elif close:
            text = f"there is no '{name}' on {PLURAL[kind]}; near it are {', '.join(close)}"
        else:
            text = f"there is no '{name}' on {PLURAL[kind]}; there is {', '.join(self.scope.names(kind))}"
        self.fail(text, place)

    def fail(self, message: str, place: Place) -> NoReturn:
        line, column, length = place
        raise FormulaError(message, line=line, column=column, length=length)


def may_change(expression: ir.Expression, written: Collection[str] = ()) -> bool:
    """Whether an expression may give something else further down: it reads a name or a written attribute of the text,
    or does
    something."""
    stack: list[Any] = [expression]
    while stack:
        part = stack.pop()
        if isinstance(part, (ir.Local, ir.MakePoint, ir.MakeChain, ir.Call)):
            return True
        if isinstance(part, ir.Read) and part.name in written:
            return True
        if isinstance(part, ir.ExpressionNode):
            stack.extend(vars(part).values())
        elif isinstance(part, tuple):
            stack.extend(part)
    return False
