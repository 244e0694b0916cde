"""From the syntax tree to the typed intermediate form: names are resolved, types agreed, errors placed."""

from __future__ import annotations

import ast
from difflib import get_close_matches
from typing import Any, NoReturn

import numpy as np

from reticula.core.errors import FormulaError
from reticula.core.geometry.geo import Geo
from reticula.core.geometry.kinds import PLURAL, Kind
from reticula.core.language import ir
from reticula.core.language.functions import FUNCTIONS, OPERATORS, VECTORS, Function
from reticula.core.language.parse import Place, column_of, parse
from reticula.core.language.queries import ASKED, METHODS, QUERY_FIELDS
from reticula.core.language.scope import AROUND, CONSTANTS, Scope
from reticula.core.spatial.sampling import SAMPLED

__all__ = ["check", "convert"]

BINARY: dict[type[ast.operator], str] = {
    ast.Add: "+", ast.Sub: "-", ast.Mult: "*", ast.Div: "/", ast.FloorDiv: "//", ast.Mod: "%", ast.Pow: "**",
}  # fmt: skip
COMPARE: dict[type[ast.cmpop], str] = {
    ast.Eq: "==", ast.NotEq: "!=", ast.Lt: "<", ast.LtE: "<=", ast.Gt: ">", ast.GtE: ">=",
}  # fmt: skip
GATHER = {"mean", "sum", "min", "max", "median", "deviation", "any", "all", "len"}
WIDEST_INTEGER = 2**63
AN = {"integer": "an integer"}


def check(source: str, scope: Scope) -> ir.Expression:
    """Return the typed form of a formula; raise FormulaError with line, column and what exists instead."""
    return _Checker(source, scope).lower(parse(source))


def convert(expression: ir.Expression, wanted: str) -> ir.Expression | None:
    """Return the expression as type ``wanted`` where that loses nothing, else None."""
    if expression.type == wanted:
        return expression
    if (expression.type, wanted) == ("integer", "number"):
        return ir.Apply("number", expression.place, FUNCTIONS["number"], (expression,))
    if expression.type in ("number", "integer") and wanted in VECTORS:
        return ir.Apply(wanted, expression.place, FUNCTIONS[wanted], (expression,))
    if (expression.type, wanted) == ("vec3", "vec4"):
        one = ir.Constant("number", expression.place, 1.0)
        return ir.Apply("vec4", expression.place, FUNCTIONS["vec4"], (expression, one))
    return None


class _Checker:
    def __init__(self, source: str, scope: Scope) -> None:
        self.source = source
        self.scope = scope

    def lower(self, node: ast.expr) -> ir.Expression:
        place = column_of(node, self.source)
        match node:
            case ast.Constant(value=value):
                return self.constant(value, place)
            case ast.Name(id=name):
                return self.name(name, place)
            case ast.BinOp(left=left, op=op, right=right):
                return self.apply(OPERATORS[BINARY[type(op)]], (self.lower(left), self.lower(right)), place)
            case ast.UnaryOp(op=op, operand=operand):
                if isinstance(op, ast.UAdd):
                    return self.lower(operand)
                name = "not" if isinstance(op, ast.Not) else "negate"
                return self.apply(OPERATORS[name], (self.lower(operand),), place)
            case ast.BoolOp(op=op, values=values):
                joined = self.lower(values[0])
                for term in values[1:]:
                    name = "and" if isinstance(op, ast.And) else "or"
                    joined = self.apply(OPERATORS[name], (joined, self.lower(term)), place)
                return joined
            case ast.Compare():
                return self.compare(node, place)
            case ast.IfExp(test=test, body=body, orelse=orelse):
                return self.apply(OPERATORS["if"], (self.lower(test), self.lower(body), self.lower(orelse)), place)
            case ast.Tuple(elts=parts) | ast.List(elts=parts):
                if len(parts) not in (2, 3, 4):
                    self.fail("a vector has 2, 3 or 4 numbers", place)
                return self.apply(FUNCTIONS[f"vec{len(parts)}"], tuple(map(self.lower, parts)), place)
            case ast.Call():
                return self.call(node, place)
            case ast.Attribute():
                return self.attribute(node, place)
            case ast.Subscript(value=subject, slice=index):
                return self.subscript(self.lower(subject), index, place)
        self.fail("this cannot stand in a formula", place)

    def constant(self, value: Any, place: Place) -> ir.Constant:
        if isinstance(value, bool):
            return ir.Constant("flag", place, value)
        if isinstance(value, int):
            if abs(value) >= WIDEST_INTEGER:
                self.fail("this whole number is too large; write it with a decimal point", place)
            return ir.Constant("integer", place, value)
        if isinstance(value, float):
            if not np.isfinite(value):
                self.fail("this number is too large", place)
            return ir.Constant("number", place, value)
        return ir.Constant("text", place, str(value))

    def name(self, name: str, place: Place) -> ir.Expression:
        if name in self.scope.dials:
            value = self.scope.dials[name]
            if isinstance(value, (list, tuple)):
                return ir.Constant(f"vec{len(value)}", place, tuple(map(float, value)))
            return self.constant(value, place)
        found = self.scope.type_of(self.scope.kind, name)
        if found:
            return self.read(self.scope.kind, name, found, place)
        whole = self.scope.type_of("whole", name) if self.scope.geo.has("whole", name) else None
        if whole:
            return self.read("whole", name, whole, place)
        if name in CONSTANTS:
            return ir.Constant("number", place, CONSTANTS[name])
        self.unknown(name, place)

    def computable(self, name: str, type: str, place: Place) -> None:
        if type not in ("number", "integer", "flag", "text", *VECTORS):
            self.fail(f"'{name}' is a {type}, which a formula cannot compute with", place)

    def read(self, kind: Kind, name: str, type: str, place: Place) -> ir.Read:
        self.computable(name, type, place)
        return ir.Read(type, place, kind, name)

    def unknown(self, name: str, place: Place) -> NoReturn:
        kind = self.scope.kind
        if name == "here":
            reach = ", ".join(f"here.{word}" for word in AROUND[kind]) or "nothing"
            self.fail(f"'here' needs what is around the {kind}: {reach}, e.g. mean(here.points.position)", place)
        if name in self.scope.inputs:
            self.fail(f"'{name}' is a geometry; ask it something, e.g. {name}.closest(position).distance", place)
        if name in self.scope.ties:
            there = ", ".join(f"{name}.{word}" for word in self.scope.ties[name]) or "nothing"
            self.fail(f"'{name}' is a node of the graph; name one of its parameters: {there}", place)
        if name in FUNCTIONS:
            self.fail(f"'{name}' is a function: write {FUNCTIONS[name].usage}", place)
        close = get_close_matches(name, [*self.scope.names(kind), *CONSTANTS], 3, 0.5)
        elsewhere = [other for other in self.scope.kinds_with(name) if other != kind]
        if elsewhere:
            other = elsewhere[0]
            words = [word for word, leads in AROUND[kind].items() if leads == other]
            text = f"'{name}' belongs to each {other}, and this runs on each {kind}"
            if words and kind == "corner":
                text += f"; write here.{words[0]}.{name}"
            elif words:
                text += f"; write e.g. mean(here.{words[0]}.{name}) or any(here.{words[0]}.{name})"
        elif close:
            text = f"there is no '{name}' on {PLURAL[kind]}; near it are {', '.join(close)}"
        else:
            text = f"there is no '{name}' on {PLURAL[kind]}; there is {', '.join(self.scope.names(kind))}"
        self.fail(text, place)

    def compare(self, node: ast.Compare, place: Place) -> ir.Expression:
        terms = [self.lower(term) for term in (node.left, *node.comparators)]
        result: ir.Expression | None = None
        for op, a, b in zip(node.ops, terms[:-1], terms[1:], strict=True):
            one = self.apply(OPERATORS[COMPARE[type(op)]], (a, b), place)
            result = one if result is None else self.apply(OPERATORS["and"], (result, one), place)
        assert result is not None
        return result

    def apply(self, function: Function, arguments: tuple[ir.Expression, ...], place: Place) -> ir.Apply:
        for argument in arguments:
            if isinstance(argument, ir.ListOf):
                self.fail("this gives a list of values; take one with mean(), sum(), min(), max()", argument.place)
            if argument.type == "place":
                self.fail("this gives a place; name what you want of it, e.g. .position or .distance", argument.place)
        types = tuple(argument.type for argument in arguments)
        resolved = function.resolve(types)
        if resolved is None:
            given = " and ".join(AN.get(t, f"a {t}") for t in types) or "nothing"
            hint = ""
            if "flag" in types and function.name in "+-*/":
                hint = "; turn yes and no into 1 and 0 with number(x)"
            if function.name in ("and", "or", "not") and types != ("flag",) * len(types):
                hint = "; compare numbers first, e.g. x > 0.5"
            if function.name in FUNCTIONS:
                self.fail(f"{function.name} cannot take {given}; write {function.usage}{hint}", place)
            self.fail(f"'{function.name}' cannot take {given}{hint}", place)
        wanted, result = resolved
        converted = tuple(convert(a, w) or a for a, w in zip(arguments, wanted, strict=True))
        return ir.Apply(result, place, function, converted)

    def call(self, node: ast.Call, place: Place) -> ir.Expression:
        if isinstance(node.func, ast.Attribute) and isinstance(node.func.value, ast.Name):
            owner = node.func.value.id
            if owner in self.scope.inputs and not self.scope.type_of(self.scope.kind, owner):
                return self.query(owner, node.func.attr, node, place)
        if not isinstance(node.func, ast.Name):
            self.fail("only a function's own name can be called", place)
        name = node.func.id
        if node.keywords:
            self.fail(f"{name} takes its values in order, without names", place)
        arguments = tuple(self.lower(argument) for argument in node.args)
        if name in GATHER and len(arguments) == 1 and isinstance(arguments[0], ir.ListOf):
            return self.gather(name, arguments[0], place)
        if name == "random":
            return self.random(arguments, place)
        if name == "walk":
            return self.walk(arguments, place)
        if name not in FUNCTIONS:
            if name in GATHER:
                self.fail(f"{name} takes what is around an element, e.g. {name}(here.points.position)", place)
            close = get_close_matches(name, [*FUNCTIONS, *GATHER, "random", "walk"], 3, 0.5)
            there = f"near it are {', '.join(close)}" if close else "the reference lists all functions"
            self.fail(f"there is no function '{name}'; {there}", column_of(node.func, self.source))
        return self.apply(FUNCTIONS[name], arguments, place)

    def random(self, arguments: tuple[ir.Expression, ...], place: Place) -> ir.Expression:
        if len(arguments) > 2 or any(argument.type != "integer" for argument in arguments):
            self.fail("write random() or random(seed) with a whole number as seed, or random(seed, piece)", place)
        seed = arguments[0] if arguments else ir.Constant("integer", place, 0)
        identity = ir.Read("identity", place, self.scope.kind, "") if len(arguments) < 2 else arguments[1]
        return ir.Apply("number", place, RANDOM, (identity, seed))

    def walk(self, arguments: tuple[ir.Expression, ...], place: Place) -> ir.Walk:
        if self.scope.kind != "point":
            self.fail(
                f"walk() runs on points, and this runs on each {self.scope.kind}; set a point attribute first", place
            )
        if len(arguments) != 1 or arguments[0].type != "flag" or isinstance(arguments[0], ir.ListOf):
            self.fail(
                "write walk(x) with a group or condition that holds where the way begins, e.g. walk(border)", place
            )
        return ir.Walk("number", place, arguments[0])

    def gather(self, how: str, items: ir.ListOf, place: Place) -> ir.Gather:
        of = items.type
        if how == "len":
            return ir.Gather("integer", place, "len", items)
        if how in ("any", "all"):
            if of != "flag":
                self.fail(f"{how} takes flags, not a {of}; name a group, e.g. {how}(here.points.crest)", place)
            return ir.Gather("flag", place, "any" if how == "any" else "all", items)
        if how in ("median", "deviation"):
            if of not in ("number", "integer"):
                self.fail(
                    f"{how} takes numbers, not a {of}; name one component with mean() first, or set an attribute", place
                )
            return ir.Gather("number", place, how, items)  # type: ignore[arg-type]
        if of not in ("number", "integer", *VECTORS):
            self.fail(f"{how} takes numbers or vectors, not a {of}", place)
        result = "number" if how == "mean" and of == "integer" else of
        return ir.Gather(result, place, how, items)  # type: ignore[arg-type]

    def query(self, owner: str, how: str, node: ast.Call, place: Place) -> ir.Expression:
        method = METHODS.get(how)
        if method is None:
            close = get_close_matches(how, list(METHODS), 1, 0.5) or sorted(METHODS)
            self.fail(f"a geometry cannot be asked '{how}'; it can be asked {', '.join(close)}", place)
        if node.keywords:
            self.fail(f"{how} takes its values in order, without names", place)
        self.input(owner, place)
        given = [self.lower(argument) for argument in node.args]
        wanted = method.wanted[: len(given)]
        if not method.least <= len(given) <= len(method.wanted):
            self.fail(f"write {owner}.{method.usage}", place)
        arguments = tuple(self.argument(a, w, f"{owner}.{method.usage}") for a, w in zip(given, wanted, strict=True))
        query = ir.Query(method.type, place, owner, how, arguments)
        if how != "near":
            return query
        index = ir.Read("integer", place, "point", "index")
        return ir.ListOf("integer", place, "point", how, index, owner, query)

    def argument(self, given: ir.Expression, wanted: str, usage: str) -> ir.Expression:
        converted = None if isinstance(given, ir.ListOf) else convert(given, wanted)
        if converted is None:
            self.fail(f"this is a {given.type}, but a {wanted} is wanted; write {usage}", given.place)
        return converted

    def input(self, name: str, place: Place) -> Geo:
        geo = self.scope.inputs[name]
        if geo is None:
            self.fail(f"nothing is connected to '{name}'", place)
        return geo

    def of_input(self, owner: str, name: str, place: Place) -> ir.Expression:
        """What stands after an input's name: a value of the whole, or the elements of a kind."""
        geo = self.input(owner, place)
        if name in ASKED:
            index = ir.Read("integer", place, ASKED[name], "index")
            return ir.ListOf("integer", place, ASKED[name], "all", index, owner)
        scope = Scope(geo, "whole")
        type = scope.type_of("whole", name)
        if type is None:
            there = [*scope.names("whole"), *ASKED, *(f"{method}()" for method in METHODS)]
            elsewhere = [plural for plural, kind in ASKED.items() if Scope(geo, kind).type_of(kind, name)]
            if elsewhere:
                self.fail(
                    f"'{name}' belongs to its {elsewhere[0]}; write e.g. mean({owner}.{elsewhere[0]}.{name})", place
                )
            self.fail(f"'{owner}' has no '{name}'; it has {', '.join(there)}", place)
        self.computable(name, type, place)
        return ir.ReadOf(type, place, owner, name)

    def list_value(self, items: ir.ListOf, name: str, place: Place) -> ir.ListOf:
        """The values that the elements of an input have, e.g. ``source.points.cover``."""
        geo = self.input(items.input, place)
        scope = Scope(geo, items.kind)
        type = scope.type_of(items.kind, name)
        if type is None:
            there = get_close_matches(name, scope.names(items.kind), 3, 0.4) or scope.names(items.kind)
            self.fail(
                f"there is no '{name}' on the {PLURAL[items.kind]} of '{items.input}'; there is {', '.join(there)}",
                place,
            )
        read = self.read(items.kind, name, type, place)
        return ir.ListOf(type, place, items.kind, items.around, read, items.input, items.query)

    def found(self, query: ir.Query, name: str, place: Place) -> ir.Found:
        """What a place knows: where it is, or an attribute of what is there."""
        geo = self.input(query.input, place)
        fields = QUERY_FIELDS[query.how]
        on_faces = bool(geo.topology.face_count) and query.how != "nearest"
        for kind in SAMPLED if on_faces else SAMPLED[:1]:
            if geo.has(kind, name) and not (name in fields and name in ("position", "normal")):
                self.computable(name, geo.find(kind, name).type, place)
                return ir.Found(geo.find(kind, name).type, place, query, name, kind)
        if name in fields:
            return ir.Found(fields[name], place, query, name)
        there = [*fields, *sorted({n for kind in SAMPLED for n in geo.attributes[kind]} - set(fields))]
        close = get_close_matches(name, there, 3, 0.5) or there
        self.fail(f"'{query.input}' has no '{name}' there; there is {', '.join(close)}", place)

    def attribute(self, node: ast.Attribute, place: Place) -> ir.Expression:
        match node.value:
            case ast.Name(id=owner) if owner in self.scope.inputs and not self.scope.type_of(self.scope.kind, owner):
                return self.of_input(owner, node.attr, place)
            case ast.Name(id=owner) if owner in self.scope.ties and not self.scope.type_of(self.scope.kind, owner):
                return self.tie(owner, node.attr, place)
            case ast.Name(id="here"):
                around = self.around(node.attr, place)
                index = ir.Read("integer", place, AROUND[self.scope.kind][around], "index")
                return ir.ListOf("integer", place, self.scope.kind, around, index)
            case ast.Attribute(value=ast.Name(id="here"), attr=word):
                around = self.around(word, place)
                kind = AROUND[self.scope.kind][around]
                type = self.scope.type_of(kind, node.attr)
                if type is None:
                    there = get_close_matches(node.attr, self.scope.names(kind), 3, 0.4) or self.scope.names(kind)
                    self.fail(f"there is no '{node.attr}' on {PLURAL[kind]}; there is {', '.join(there)}", place)
                items = ir.ListOf(type, place, self.scope.kind, around, self.read(kind, node.attr, type, place))
                return ir.Gather(type, place, "only", items) if self.scope.kind == "corner" else items
        subject = self.lower(node.value)
        if isinstance(subject, ir.Query) and subject.type == "place":
            return self.found(subject, node.attr, place)
        if isinstance(subject, ir.ListOf) and subject.input and subject.value == self.index_of(subject):
            return self.list_value(subject, node.attr, place)
        return self.swizzle(subject, node.attr, place)

    def index_of(self, items: ir.ListOf) -> ir.Read:
        return ir.Read("integer", items.place, items.kind, "index")

    def tie(self, node: str, parameter: str, place: Place) -> ir.Constant:
        """The value of another node's parameter."""
        known = self.scope.ties[node]
        if parameter not in known:
            close = get_close_matches(parameter, list(known), 3, 0.4) or list(known)
            self.fail(
                f"'{node}' has no parameter '{parameter}' with a plain value; it has {', '.join(close) or 'none'}",
                place,
            )
        value = known[parameter]
        if isinstance(value, (list, tuple)):
            return ir.Constant(f"vec{len(value)}", place, tuple(map(float, value)))
        return self.constant(value, place)

    def around(self, word: str, place: Place) -> str:
        words = AROUND[self.scope.kind]
        if word not in words:
            there = ", ".join(f"here.{known}" for known in words) or "nothing around it"
            self.fail(f"a {self.scope.kind} has no here.{word}; it has {there}", place)
        return word

    def swizzle(self, vector: ir.Expression, letters: str, place: Place) -> ir.Component:
        size = VECTORS.get(vector.type)
        if size is None or isinstance(vector, ir.ListOf):
            self.fail(f"'.{letters}' needs a vector, and this is a {vector.type}", place)
        for alphabet in ("xyzw", "rgba"):
            if len(letters) <= 4 and all(letter in alphabet[:size] for letter in letters):
                components = tuple(alphabet.index(letter) for letter in letters)
                return ir.Component("number" if len(letters) == 1 else f"vec{len(letters)}", place, vector, components)
        self.fail(f"a {vector.type} has .{'xyzw'[:size]} and .{'rgba'[:size]}, not .{letters}", place)

    def subscript(self, vector: ir.Expression, index: ast.expr, place: Place) -> ir.Component:
        size = VECTORS.get(vector.type)
        if size is None or isinstance(vector, ir.ListOf):
            self.fail(f"[ ] needs a vector, and this is a {vector.type}", place)
        if not isinstance(index, ast.Constant) or type(index.value) is not int or not 0 <= index.value < size:
            self.fail(f"the number in [ ] is one of 0 to {size - 1}", place)
        return ir.Component("number", place, vector, (index.value,))

    def fail(self, message: str, place: Place) -> NoReturn:
        line, column, length = place
        raise FormulaError(message, line=line, column=column, length=length)


def _random_types(types: tuple[str, ...]) -> None:
    return None


def _random(identity: Any, seed: Any) -> Any:
    from reticula.core.geometry.identity import hashed_numbers, unit_random

    names = identity if identity.dtype == np.uint64 else hashed_numbers(identity)
    count = max(len(names), len(seed))
    return unit_random(np.broadcast_to(names, (count,)), np.broadcast_to(seed, (count,)))


RANDOM = Function(
    "random",
    "random(seed, key)",
    "a number in 0..1, the same for an element whatever is added around it; with a key, e.g. piece, the same for all with that key",
    _random_types,
    _random,
)
