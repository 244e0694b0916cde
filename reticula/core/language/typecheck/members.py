"""What stands after a dot or in square brackets: inputs, questions, elements, places, components."""

from __future__ import annotations

import ast
from difflib import get_close_matches
from typing import NoReturn

from reticula.core.geometry.mesh.attribute_types import vector_type
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.mesh.kinds import PLURAL, Kind
from reticula.core.language import ir
from reticula.core.language.asked_elements import ASKED
from reticula.core.language.parse import Place
from reticula.core.language.questions import QUESTIONS
from reticula.core.language.scope import AROUND, SINGLE, Scope
from reticula.core.language.typecheck.environment import Checker
from reticula.core.language.types import (
    INTEGER,
    NUMBER,
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
from reticula.core.spatial.sampling import SAMPLED

__all__ = ["MemberChecker"]


class MemberChecker(Checker):
    """Checks members of inputs, elements, places, lists and vectors."""

    # ---- inputs

    def is_input(self, name: str) -> bool:
        """Whether a name means an input here: nothing that comes before inputs has it."""
        taken = name in self.frame.defined or name in self.frame.aliases or self.scope.type_of(self.scope.kind, name)
        return name in self.scope.inputs and not taken

    def query(self, owner: str, how: str, node: ast.Call, place: Place) -> ir.Query:
        asked = QUESTIONS.get(how)
        if asked is None:
            close = get_close_matches(how, list(QUESTIONS), 1, 0.5) or sorted(QUESTIONS)
            self.fail(f"a geometry cannot be asked '{how}'; it can be asked {', '.join(close)}", place)
        lacks = asked.lacks(self.input(owner, place))
        if lacks:
            self.fail(f"'{owner}' {lacks}", place)
        nodes = list(node.args)
        for keyword in node.keywords:
            if keyword.arg != asked.named or len(nodes) != len(asked.wanted) - 1:
                self.fail(f"{how} takes its values in order, without names", place)
            nodes.append(keyword.value)
        given = [self.lower(argument) for argument in nodes]
        wanted = asked.wanted[: len(given)]
        if not asked.least <= len(given) <= len(asked.wanted):
            self.fail(f"write {owner}.{asked.usage}", place)
        arguments = tuple(self.argument(a, w, f"{owner}.{asked.usage}") for a, w in zip(given, wanted, strict=True))
        owner = self.scope.owner(owner)
        return ir.Query(asked.type_on(owner), place, owner, asked, arguments)

    def input(self, name: str, place: Place) -> Geo:
        geo = self.scope.inputs[name]
        if geo is None:
            self.fail(f"nothing is connected to '{name}'", place)
        return geo

    def of_input(self, owner: str, name: str, place: Place) -> ir.Expression:
        """What stands after an input's name: a value of the whole, or the elements of a kind."""
        geo = self.input(owner, place)
        if name in ASKED:
            known = self.scope.owner(owner)
            return ir.All(ListOf(ElementOf(ASKED[name], known)), place, known, ASKED[name])
        scope = Scope(geo, "whole")
        type = scope.type_of("whole", name)
        if type is None:
            there = [*scope.names("whole"), *ASKED, *(f"{asked}()" for asked in QUESTIONS)]
            elsewhere = [plural for plural, kind in ASKED.items() if Scope(geo, kind).type_of(kind, name)]
            if elsewhere:
                self.fail(
                    f"'{name}' belongs to its {elsewhere[0]}; write e.g. mean({owner}.{elsewhere[0]}.{name})", place
                )
            self.fail(f"'{owner}' has no '{name}'; it has {', '.join(there)}", place)
        return ir.ReadOf(type, place, self.scope.owner(owner), name)

    def found(self, where: ir.Expression, name: str, place: Place) -> ir.PlaceField:
        """What a place knows: where it is, or an attribute of what is there."""
        assert isinstance(where.type, PlaceOf)
        owner, asked = where.type.owner, QUESTIONS[where.type.how]
        geo = self.scope.of(owner).geo
        field = asked.field(name)
        on_faces = bool(geo.topology.face_count) and asked.where(geo) == "faces"
        for kind in SAMPLED if on_faces else SAMPLED[:1]:
            if geo.has(kind, name) and not (field and name in ("position", "normal")):
                type = type_of_attribute(geo.find(kind, name).type)
                if is_list(type):
                    self.fail(f"'{name}' is a list, which cannot be read at a place; read it of an element", place)
                return ir.PlaceField(type, place, where, name, kind)
        if field:
            return ir.PlaceField(field.type, place, where, name)
        fields = [one.name for one in asked.fields]
        there = [*fields, *sorted({n for kind in SAMPLED for n in geo.attributes[kind]} - set(fields))]
        close = get_close_matches(name, there, 3, 0.5) or there
        self.fail(f"'{owner or 'geo'}' has no '{name}' there; there is {', '.join(close)}", place)

    # ---- after a dot

    def attribute(self, node: ast.Attribute, place: Place) -> ir.Expression:
        match node.value:
            case ast.Name(id=owner) if self.is_input(owner):
                return self.of_input(owner, node.attr, place)
            case ast.Name(id=owner) if self.is_tie(owner):
                return self.tie(owner, node.attr, place)
            case ast.Name(id="here"):
                return self.of_here(node.attr, place)
        subject = self.lower(node.value)
        if isinstance(subject.type, PlaceOf):
            return self.found(subject, node.attr, place)
        if isinstance(subject.type, ElementOf):
            return self.of_element(subject, node.attr, place)
        if is_list(subject.type):
            return self.of_list(subject, node.attr, place)
        return self.swizzle(subject, node.attr, place)

    def is_tie(self, name: str) -> bool:
        return (
            name in self.scope.ties and name not in self.frame.defined and not self.scope.type_of(self.scope.kind, name)
        )

    def of_here(self, name: str, place: Place) -> ir.Expression:
        kind = self.scope.kind
        if name in AROUND[kind]:
            return self.around(ir.Here(ElementOf(kind), place), name, place)
        type = self.scope.type_of(kind, name)
        if type is not None:
            return self.read(kind, name, type, place)
        there = ", ".join(f"here.{known}" for known in AROUND[kind]) or "nothing around it"
        self.fail(f"a {kind} has no here.{name}; it has {there}", place)

    def around(self, of: ir.Expression, word: str, place: Place) -> ir.Adjacent:
        kind = kind_of(of.type)
        found = ElementOf(AROUND[kind][word], owner_of(of.type))
        return ir.Adjacent(found if (kind, word) in SINGLE else ListOf(found), place, of, word)

    def of_element(self, subject: ir.Expression, name: str, place: Place) -> ir.Expression:
        kind, owner = kind_of(subject.type), owner_of(subject.type)
        scope = self.scope.of(owner)
        type = scope.type_of(kind, name)
        if type is not None:
            return ir.ReadAt(type, place, subject, name)
        if name in AROUND[kind]:
            return self.around(subject, name, place)
        self.not_on(owner, kind, name, place)

    def not_on(self, owner: str, kind: Kind, name: str, place: Place) -> NoReturn:
        names = self.scope.of(owner).names(kind)
        there = get_close_matches(name, names, 3, 0.4) or names
        on = f"the {PLURAL[kind]} of '{owner}'" if owner else PLURAL[kind]
        self.fail(f"there is no '{name}' on {on}; there is {', '.join(there)}", place)

    def of_list(self, items: ir.Expression, name: str, place: Place) -> ir.Expression:
        of = item_of(items.type)
        if name == "append":
            self.fail("append stands on a line of its own: values.append(x)", place)
        if isinstance(of, ElementOf):
            kind = kind_of(of)
            scope = self.scope.of(owner_of(of))
            type = scope.type_of(kind, name)
            if type is None:
                self.not_on(owner_of(of), kind, name, place)
            value = type
            if is_list(value):
                self.fail(f"'{name}' is a list itself; go through the elements with 'for'", place)
            return ir.EachField(ListOf(value), place, items, name)
        components = self.components(of, name)
        if components is None:
            self.fail(f"'.{name}' needs elements or vectors, and this is {in_words(items.type)}", place)
        return ir.Part(ListOf(vector_type(len(name))), place, items, components)

    def tie(self, node: str, parameter: str, place: Place) -> ir.External:
        """The value of another node's parameter."""
        known = self.scope.ties[node]
        if parameter not in known:
            close = get_close_matches(parameter, list(known), 3, 0.4) or list(known)
            self.fail(
                f"'{node}' has no parameter '{parameter}' with a plain value; it has {', '.join(close) or 'none'}",
                place,
            )
        return self.given_value(f"{node}.{parameter}", known[parameter], place)

    def components(self, type: Type, letters: str) -> tuple[int, ...] | None:
        size = VECTORS.get(type)
        for alphabet in ("xyzw", "rgba") if size else ():
            if len(letters) <= 4 and all(letter in alphabet[:size] for letter in letters):
                return tuple(alphabet.index(letter) for letter in letters)
        return None

    def swizzle(self, vector: ir.Expression, letters: str, place: Place) -> ir.Component:
        size = VECTORS.get(vector.type)
        if size is None:
            self.fail(f"'.{letters}' needs a vector, and this is {in_words(vector.type)}", place)
        components = self.components(vector.type, letters)
        if components is None:
            self.fail(f"a {vector.type} has .{'xyzw'[:size]} and .{'rgba'[:size]}, not .{letters}", place)
        return ir.Component(vector_type(len(letters)), place, vector, components)

    def subscript(self, subject: ir.Expression, index: ast.expr, place: Place) -> ir.Expression:
        if is_list(subject.type):
            if subject.type == UNKNOWN_LIST:
                self.fail("this list is empty", place)
            number = self.lower(index)
            if number.type is not INTEGER:
                self.fail(f"the number in [ ] is whole, not {in_words(number.type)}; write integer(x)", number.place)
            return ir.Item(item_of(subject.type), place, subject, number)
        size = VECTORS.get(subject.type)
        if size is None:
            self.fail(f"[ ] needs a list or a vector, and this is {in_words(subject.type)}", place)
        value = index.value if isinstance(index, ast.Constant) else None
        if type(value) is not int or not 0 <= value < size:
            self.fail(f"the number in [ ] is one of 0 to {size - 1}", place)
        return ir.Component(NUMBER, place, subject, (value,))
