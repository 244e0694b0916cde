"""What a script writes: names of its own, and attributes."""

from __future__ import annotations

import ast
from collections.abc import Collection, Sequence
from dataclasses import dataclass, field

from reticula.core.geometry.mesh.attribute_types import vector_type
from reticula.core.geometry.mesh.kinds import PLURAL, Kind
from reticula.core.language import ir
from reticula.core.language.functions import FUNCTIONS, OPERATORS, Function
from reticula.core.language.parse import Place, column_of
from reticula.core.language.scope import CONSTANTS, Scope
from reticula.core.language.typecheck.environment import MAKERS, Frame, as_vector, convert, join_types
from reticula.core.language.typecheck.expressions import BINARY, ExpressionChecker
from reticula.core.language.types import (
    INTEGER,
    NUMBER,
    NUMERIC,
    STORED_LISTS,
    UNKNOWN_LIST,
    VECTORS,
    ElementOf,
    ListOf,
    PlaceOf,
    Type,
    in_words,
    is_list,
    item_of,
    kind_of,
    owner_of,
    type_of_attribute,
)

__all__ = ["AssignmentChecker", "Variant", "Wider"]

RESERVED = ("here", "whole", "geo", "time", "frame", "True", "False")
GIVEN_BY_ORDER = ("index", "count", "fraction", "piece", "piece_size", "valence", "border")


class Wider(Exception):
    """A name needs a wider type than it was first seen with: the text is checked again from the start."""


@dataclass
class Variant(Frame):
    """The frame of a function that is being checked, for one combination of types.

    ``key`` names it by its types, whatever was checked before it; ``routine`` is its number among the functions of the
    program.
    """

    key: str = ""
    routine: str = ""
    result: Type | None = None
    returns: bool = False
    busy: bool = True
    breaks: list[list[set[str]]] = field(default_factory=list)


class AssignmentChecker(ExpressionChecker):
    """Checks assignments.

    ``wider`` holds the types that names turned out to need.
    """

    def __init__(self, source: str, scope: Scope, wider: dict[tuple[str, str], Type]) -> None:
        super().__init__(source, scope)
        self.wider = wider
        self.top = Variant()
        self.frame: Variant = self.top
        self.functions: dict[str, ast.FunctionDef] = {}
        self.variants: dict[tuple[str, tuple[Type, ...]], Variant] = {}
        self.routines: dict[str, ir.Routine] = {}
        self.writes: dict[str, Type] = {}
        self.adds: dict[tuple[str, str, bool], Type] = {}
        self.depth = 0

    def written_here(self) -> Collection[str]:
        return self.writes

    # ---- names

    def take_name(self, name: str, place: Place) -> None:
        """Make sure that a name is free for a value of the script's own."""
        if name in RESERVED:
            self.fail(f"'{name}' has a meaning of its own; choose another name", place)
        if name in self.scope.dials or name in self.scope.profiles:
            self.fail(f"'{name}' is a control; the script cannot change it, choose another name", place)
        if name in self.scope.inputs:
            self.fail(f"'{name}' is an input; choose another name", place)
        if name in FUNCTIONS or name in self.functions or name in MAKERS or name in CONSTANTS:
            self.fail(f"'{name}' is the name of a function or constant; choose another name", place)

    def fresh_name(self, type: Type) -> str:
        self.frame.hidden += 1
        name = f"part {self.frame.hidden}"
        self.frame.types[name] = type
        return name

    def set_type(self, name: str, type: Type, place: Place) -> Type:
        """Agree on the type of a name with all that was assigned to it before; returns it."""
        key = (self.frame.key, name)
        known = self.wider.get(key) or self.frame.types.get(name)
        if known is None:
            self.frame.types[name] = type
            return type
        joined = join_types(known, type)
        if joined is None:
            self.fail(f"'{name}' is {in_words(known)} and cannot become {in_words(type)}; use another name", place)
        if joined != known:
            self.wider[key] = self.frame.types[name] = joined
            raise Wider
        self.frame.types[name] = joined
        return joined

    def assign(self, name: str, value: ir.Expression, place: Place) -> ir.Assign:
        self.take_name(name, place)
        type = self.set_type(name, value.type, place)
        converted = convert(value, type)
        assert converted is not None, (value.type, type)
        self.frame.defined.add(name)
        return ir.Assign(place, name, converted)

    # ---- assignments

    def assignment(self, targets: Sequence[ast.expr], value: ast.expr, place: Place) -> list[ir.Statement]:
        if len(targets) == 1 and isinstance(targets[0], (ast.Tuple, ast.List)):
            parts = targets[0].elts
            if isinstance(value, (ast.Tuple, ast.List)) and len(value.elts) == len(parts):
                return self.side_by_side(parts, value.elts, place)
            return self.unpack(targets[0], as_vector(self.lower(value)), place)
        lowered = self.lower(value)
        if len(targets) == 1:
            return self.store(targets[0], lowered, place)
        name = self.fresh_name(lowered.type)
        kept = ir.Local(lowered.type, place, name)
        made: list[ir.Statement] = [ir.Assign(place, name, lowered)]
        for target in targets:
            made += self.store(target, kept, place)
        return made

    def side_by_side(self, targets: Sequence[ast.expr], values: Sequence[ast.expr], place: Place) -> list[ir.Statement]:
        """Several values to several names; all are worked out before the first is stored."""
        lowered = [self.lower(value) for value in values]
        names = [self.fresh_name(value.type) for value in lowered]
        made: list[ir.Statement] = [ir.Assign(place, n, v) for n, v in zip(names, lowered, strict=True)]
        for target, name, value in zip(targets, names, lowered, strict=True):
            made += self.store(target, ir.Local(value.type, place, name), place)
        return made

    def unpack(self, target: ast.expr, value: ir.Expression, place: Place) -> list[ir.Statement]:
        if not isinstance(target, (ast.Tuple, ast.List)):
            self.fail("names are wanted here", place)
        size = VECTORS.get(value.type)
        if is_list(value.type):
            self.fail("a list has no fixed length; name its items, e.g. values[0]", place)
        if size != len(target.elts):
            self.fail(f"{len(target.elts)} names cannot take {in_words(value.type)}", place)
        name = self.fresh_name(value.type)
        made: list[ir.Statement] = [ir.Assign(place, name, value)]
        for number, part in enumerate(target.elts):
            component = ir.Component(NUMBER, place, ir.Local(value.type, place, name), (number,))
            made += self.store(part, component, place)
        return made

    def store(self, target: ast.expr, value: ir.Expression, place: Place) -> list[ir.Statement]:
        """Put a value where it belongs."""
        place = column_of(target, self.source)
        match target:
            case ast.Name(id=name):
                return [self.assign(name, value, place)]
            case ast.Attribute(value=ast.Name(id="here"), attr=name):
                return [self.write(name, value, place)]
            case ast.Attribute(value=owner, attr=name):
                subject = self.lower(owner)
                if isinstance(subject.type, ElementOf):
                    return [self.add(subject, name, value, place, sums=False)]
                return self.store(owner, self.with_components(subject, name, value, place), place)
            case ast.Subscript(value=ast.Name(id=name), slice=index):
                subject = self.lower(target.value)
                if is_list(subject.type):
                    return [self.set_item(name, self.lower(index), value, place)]
                number = index.value if isinstance(index, ast.Constant) else None
                if type(number) is not int or not 0 <= number < VECTORS.get(subject.type, 0):
                    self.fail("[ ] with '=' takes an item of a list, or a component of a vector by its number", place)
                return self.store(target.value, self.with_components(subject, "xyzw"[number], value, place), place)
        self.fail("a value can go to a name, to here.name, to element.name or to list[number]", place)

    def with_components(self, vector: ir.Expression, letters: str, value: ir.Expression, place: Place) -> ir.Expression:
        """A vector with some components replaced."""
        components = self.components(vector.type, letters)
        if components is None or len(set(components)) != len(components):
            if is_list(vector.type) or isinstance(vector.type, PlaceOf):
                self.fail(f"'.{letters}' of {in_words(vector.type)} cannot be set", place)
            self.fail(f"{in_words(vector.type)} has no component '.{letters}' to set", place)
        wanted = vector_type(len(components))
        given = convert(as_vector(value), wanted)
        if given is None:
            self.fail(f"'.{letters}' takes a {wanted}, not {in_words(value.type)}", place)
        parts: list[ir.Expression] = []
        for number in range(VECTORS[vector.type]):
            if number not in components:
                parts.append(ir.Component(NUMBER, place, vector, (number,)))
            elif len(components) == 1:
                parts.append(given)
            else:
                parts.append(ir.Component(NUMBER, place, given, (components.index(number),)))
        return ir.Apply(vector.type, place, FUNCTIONS[str(vector.type)], tuple(parts))

    def set_item(self, name: str, index: ir.Expression, value: ir.Expression, place: Place) -> ir.SetItem:
        self.own_list(name, place)
        if index.type is not INTEGER:
            self.fail(f"the number in [ ] is whole, not {in_words(index.type)}", index.place)
        return ir.SetItem(place, name, index, self.as_item(name, value, place))

    def own_list(self, name: str, place: Place) -> None:
        if name not in self.frame.defined:
            self.fail(
                f"'{name}' is not a list that the script made; copy it first, e.g. values = [x for x in {name}]", place
            )

    def as_item(self, name: str, value: ir.Expression, place: Place) -> ir.Expression:
        """A value as an item of a list; the list's type widens where it must."""
        value = as_vector(value)
        if is_list(value.type) or isinstance(value.type, PlaceOf):
            self.fail(f"a list cannot hold {in_words(value.type)}", place)
        held = self.frame.types[name]
        if not is_list(held):
            self.fail(f"'{name}' is {in_words(held)}, not a list", place)
        item = value.type if held == UNKNOWN_LIST else join_types(item_of(held), value.type)
        if item is None:
            self.fail(f"'{name}' is {in_words(held)} and cannot take {in_words(value.type)}", place)
        if ListOf(item) != held:
            self.wider[(self.frame.key, name)] = self.frame.types[name] = ListOf(item)
            raise Wider
        converted = convert(value, item)
        assert converted is not None
        return converted

    def augmented(self, target: ast.expr, op: ast.operator, value: ast.expr, place: Place) -> list[ir.Statement]:
        symbol = OPERATORS[BINARY[type(op)]]
        if isinstance(target, ast.Attribute) and not (isinstance(target.value, ast.Name) and target.value.id == "here"):
            subject = self.lower(target.value)
            if isinstance(subject.type, ElementOf):
                lowered = self.lower(value)
                if symbol.name == "-":
                    lowered = self.apply(OPERATORS["negate"], (lowered,), place)
                elif symbol.name != "+":
                    self.fail(f"other elements take '=' and '+=', not '{symbol.name}='", place)
                return [self.add(subject, target.attr, lowered, place, sums=True)]
        if isinstance(target, ast.Subscript) and isinstance(target.value, ast.Name):
            held = self.lower(target.value)
            if is_list(held.type):
                return self.augmented_item(target.value.id, held, self.lower(target.slice), symbol, value, place)
        if isinstance(target, ast.Attribute):
            before = ast.copy_location(ast.Attribute(target.value, target.attr, ast.Load()), target)
            old = self.lower(before)
        else:
            old = self.lower(target)
        if is_list(old.type) and symbol.name == "+":
            return self.store(target, self.joined(old, self.lower(value), place), place)
        return self.store(target, self.apply(symbol, (old, self.lower(value)), place), place)

    def augmented_item(
        self, name: str, held: ir.Expression, index: ir.Expression, symbol: Function, value: ast.expr, place: Place
    ) -> list[ir.Statement]:
        """An item changed in place; its number is worked out once."""
        at = self.fresh_name(index.type)
        number = ir.Local(index.type, place, at)
        if index.type is not INTEGER:
            self.fail(f"the number in [ ] is whole, not {in_words(index.type)}", index.place)
        item = ir.Item(item_of(held.type), index.place, held, number)
        changed = self.apply(symbol, (item, self.lower(value)), place)
        return [ir.Assign(place, at, index), self.set_item(name, number, changed, index.place)]

    # ---- what is written

    def writable(self, kind: str, name: str, place: Place) -> None:
        if name in GIVEN_BY_ORDER:
            self.fail(f"'{name}' follows from the order and the faces and cannot be set; choose another name", place)
        if name == "position" and kind != "point":
            advice = "go through its points: for p in here.points: p.position += offset"
            self.fail(f"only points have a position that can be set; {advice}", place)

    def stored_type(self, kind: Kind, name: str, value: ir.Expression, place: Place) -> ir.Expression:
        """A value in the type that an attribute has, or gets from all that is written to it, by the element or by
        others.
        """
        key = (f"each {kind}", name)
        value = as_vector(value) if not is_list(value.type) or name == "position" else value
        if isinstance(value.type, ElementOf):
            value = ir.ReadAt(INTEGER, place, value, "index")
        if isinstance(value.type, PlaceOf) or (is_list(value.type) and value.type not in STORED_LISTS):
            self.fail(f"an attribute cannot hold {in_words(value.type)}", place)
        existing = self.scope.geo.attributes[kind].get(name)
        if existing is not None:
            held = type_of_attribute(existing.type)
            converted = convert(value, held)
            if converted is None:
                self.fail(
                    f"'{name}' is {in_words(held)} on {PLURAL[kind]} and cannot take {in_words(value.type)}; "
                    "convert it, or choose another name",
                    place,
                )
            return converted
        value = as_vector(value) if isinstance(value, ir.Listing) and self.wider.get(key) in VECTORS else value
        known = self.wider.get(key, value.type)
        joined = join_types(known, value.type)
        if joined is None:
            self.fail(f"'{name}' is set to {in_words(known)} before and cannot take {in_words(value.type)}", place)
        if joined != known or key not in self.wider:
            self.wider[key] = joined
            if joined != known:
                raise Wider
        converted = convert(value, joined)
        assert converted is not None
        return converted

    def write(self, name: str, value: ir.Expression, place: Place) -> ir.Write:
        kind = self.scope.kind
        if self.frame is not self.top:
            self.fail("a function cannot write to 'here'; return the value and write it outside of the function", place)
        self.writable(kind, name, place)
        stored = self.stored_type(kind, name, value, place)
        self.writes[name] = stored.type
        return ir.Write(place, name, stored)

    def add(self, subject: ir.Expression, name: str, value: ir.Expression, place: Place, *, sums: bool) -> ir.Add:
        kind = kind_of(subject.type)
        if owner_of(subject.type):
            self.fail(
                f"'{owner_of(subject.type)}' is another geometry; only the one that the script runs on can be written",
                place,
            )
        self.writable(kind, name, place)
        stored = self.stored_type(kind, name, value, place)
        if is_list(stored.type):
            self.fail("another element cannot be given a list", place)
        if sums and stored.type not in (*NUMERIC, *VECTORS):
            self.fail(f"'+=' adds numbers and vectors, not {in_words(stored.type)}", place)
        self.adds[kind, name, sums] = stored.type
        return ir.Add(place, subject, name, sums, stored)

    def of_here(self, name: str, place: Place) -> ir.Expression:
        kind = self.scope.kind
        if name in self.writes:
            return ir.Read(self.writes[name], place, kind, name)
        return super().of_here(name, place)

    def name(self, name: str, place: Place) -> ir.Expression:
        taken = name in self.frame.defined or name in self.frame.maybe or name in self.frame.aliases
        if not taken:
            if name == "whole" and self.scope.type_of(self.scope.kind, name) is None:
                return ir.Constant(ElementOf("whole"), place, 0)
            if name in self.writes and name not in self.scope.dials:
                return ir.Read(self.writes[name], place, self.scope.kind, name)
            if self.frame is not self.top and name in self.top.maybe | self.top.defined:
                self.fail(f"a function does not see '{name}'; hand it over in the brackets", place)
        return super().name(name, place)

    # ---- making and removing
