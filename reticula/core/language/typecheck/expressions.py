"""From the syntax tree to the typed intermediate form: expressions. Names are resolved, types agreed, errors placed."""

from __future__ import annotations

import ast
from dataclasses import replace
from difflib import get_close_matches

from reticula.core.geometry.mesh.attribute_types import TYPES
from reticula.core.language import ir
from reticula.core.language.functions import FUNCTIONS, OPERATORS, Function
from reticula.core.language.functions.patterns import RANDOM
from reticula.core.language.parse import Place, column_of
from reticula.core.language.typecheck.environment import as_vector, convert, join_types, may_change
from reticula.core.language.typecheck.lists import GATHER, ListChecker
from reticula.core.language.typecheck.members import MemberChecker
from reticula.core.language.types import (
    FLAG,
    IDENTITY,
    INTEGER,
    MATRICES,
    NUMBER,
    NUMERIC,
    ElementOf,
    PlaceOf,
    Type,
    in_words,
    is_list,
)

__all__ = ["BINARY", "ExpressionChecker"]

BINARY: dict[type[ast.operator], str] = {
    ast.Add: "+",
    ast.Sub: "-",
    ast.Mult: "*",
    ast.Div: "/",
    ast.FloorDiv: "//",
    ast.Mod: "%",
    ast.Pow: "**",
}
EACH_ITEM = "item_"
"""What the items that ``in`` goes through are called inside."""
COMPARE: dict[type[ast.cmpop], str] = {
    ast.Eq: "==",
    ast.NotEq: "!=",
    ast.Lt: "<",
    ast.LtE: "<=",
    ast.Gt: ">",
    ast.GtE: ">=",
}


class ExpressionChecker(ListChecker, MemberChecker):
    """Checks expressions."""

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
                return self.choose(self.flag(test), self.lower(body), self.lower(orelse), place)
            case ast.Tuple(elts=parts):
                if len(parts) not in (2, 3, 4):
                    self.fail("a vector has 2, 3 or 4 numbers; a list is written in [ ]", place)
                return self.apply(FUNCTIONS[f"vec{len(parts)}"], tuple(map(self.lower, parts)), place)
            case ast.List(elts=parts):
                return self.listing([self.lower(part) for part in parts], place)
            case ast.ListComp():
                return self.comprehension(node, place)
            case ast.Call():
                return self.call(node, place)
            case ast.Attribute():
                return self.attribute(node, place)
            case ast.Subscript(value=subject, slice=index):
                return self.subscript(self.lower(subject), index, place)
        self.fail("this cannot stand here", place)

    def compare(self, node: ast.Compare, place: Place) -> ir.Expression:
        if any(isinstance(op, (ast.In, ast.NotIn)) for op in node.ops):
            return self.is_in(node, place)
        terms = [self.lower(term) for term in (node.left, *node.comparators)]
        result: ir.Expression | None = None
        for op, a, b in zip(node.ops, terms[:-1], terms[1:], strict=True):
            one = self.apply(OPERATORS[COMPARE[type(op)]], (a, b), place)
            result = one if result is None else self.apply(OPERATORS["and"], (result, one), place)
        assert result is not None
        return result

    def is_in(self, node: ast.Compare, place: Place) -> ir.Expression:
        """Lower ``x in items``: whether any of the items is equal to x."""
        if len(node.ops) > 1:
            self.fail("put brackets around a test with 'in'", place)
        items = node.comparators[0]
        if not is_list(self.lower(items).type):
            self.fail(f"on the right of 'in' stands a list, e.g. {ast.unparse(node.left)} in [1, 2]", place)
        if isinstance(items, ast.List) and not items.elts:
            return ir.Constant(FLAG, place, isinstance(node.ops[0], ast.NotIn))
        name = ast.Name(EACH_ITEM, ast.Load())
        equal = ast.Compare(name, [ast.Eq()], [node.left])
        each = ast.comprehension(ast.Name(EACH_ITEM, ast.Store()), items, [], 0)
        tests = ast.ListComp(equal, [each])
        found: ast.expr = ast.Call(ast.Name("any", ast.Load()), [tests], [])
        if isinstance(node.ops[0], ast.NotIn):
            found = ast.UnaryOp(ast.Not(), found)
        for part in (name, equal, tests, found, each.target, *ast.walk(found)):
            if isinstance(part, ast.expr) and not hasattr(part, "lineno"):
                ast.copy_location(part, node)
        return self.lower(found)

    def flag(self, node: ast.expr) -> ir.Expression:
        """Lower what must be yes or no."""
        test = self.lower(node)
        if test.type is not FLAG:
            hint = f"; compare it, e.g. {ast.unparse(node)} > 0" if test.type in NUMERIC else ""
            hint = "; ask len() > 0" if is_list(test.type) else hint
            self.fail(f"yes or no is wanted here, not {in_words(test.type)}{hint}", test.place)
        return test

    def choose(self, test: ir.Expression, yes: ir.Expression, no: ir.Expression, place: Place) -> ir.Expression:
        if is_list(yes.type) or is_list(no.type) or isinstance(yes.type, (ElementOf, PlaceOf)):
            joined = join_types(yes.type, no.type)
            both = [convert(as_vector(part), joined) if joined else None for part in (yes, no)]
            if joined is None or both[0] is None or both[1] is None:
                self.fail(
                    f"one of two values must be of one type; these are {in_words(yes.type)} and {in_words(no.type)}",
                    place,
                )
            return ir.Apply(joined, place, OPERATORS["if"], (test, both[0], both[1]))
        return self.apply(OPERATORS["if"], (test, yes, no), place)

    def apply(self, function: Function, arguments: tuple[ir.Expression, ...], place: Place) -> ir.Expression:
        if (
            function.name == "+"
            and all(is_list(a.type) for a in arguments)
            and not all(isinstance(as_vector(a), ir.Apply) for a in arguments)
        ):
            return self.joined(arguments[0], arguments[1], place)
        arguments = tuple(as_vector(argument) for argument in arguments)
        if function.name == "*" and any(a.type in MATRICES for a in arguments):
            function = OPERATORS["matrix *"]
        for argument in arguments:
            if is_list(argument.type):
                self.fail("this gives a list of values; take one with mean(), sum(), min(), max()", argument.place)
            if isinstance(argument.type, PlaceOf):
                self.fail("this gives a place; name what you want of it, e.g. .position or .distance", argument.place)
        types = tuple(argument.type for argument in arguments)
        resolved = function.resolve(types)
        if resolved is None:
            given = " and ".join(in_words(t) for t in types) or "nothing"
            hint = ""
            if FLAG in types and function.name in "+-*/":
                hint = "; turn yes and no into 1 and 0 with number(x)"
            if function.name in ("and", "or", "not") and any(t is not FLAG for t in types):
                hint = "; compare numbers first, e.g. x > 0.5"
            if any(isinstance(t, ElementOf) for t in types):
                hint = "; name a value of the element, e.g. .position or .index"
            if function.name in FUNCTIONS:
                self.fail(f"{function.name} cannot take {given}; write {function.usage}{hint}", place)
            self.fail(f"'{function.name.split()[-1]}' cannot take {given}{hint}", place)
        wanted, result = resolved
        converted = tuple(convert(a, w) or a for a, w in zip(arguments, wanted, strict=True))
        return ir.Apply(result, place, function, converted)

    # ---- calls

    def call(self, node: ast.Call, place: Place) -> ir.Expression:
        if isinstance(node.func, ast.Attribute):
            if isinstance(node.func.value, ast.Name) and self.is_input(node.func.value.id):
                return self.query(node.func.value.id, node.func.attr, node, place)
            self.fail(self.no_method(node.func), column_of(node.func, self.source))
        if not isinstance(node.func, ast.Name):
            self.fail("only a function's own name can be called", place)
        name = node.func.id
        special = self.special_call(name, node, place)
        if special is not None:
            return special
        self.no_names(name, node, place)
        arguments = tuple(self.lower(argument) for argument in node.args)
        if name in self.scope.profiles:
            return self.profile(name, arguments, place)
        if name in GATHER and len(arguments) == 1 and is_list(arguments[0].type):
            return self.reduce(name, arguments[0], place)
        match name:
            case "random":
                return self.random(arguments, place)
            case "walk":
                return self.walk(arguments, place)
            case "range":
                return self.span(arguments, place)
        if name not in FUNCTIONS:
            if name in GATHER:
                self.fail(f"{name} takes what is around an element, e.g. {name}(here.points.position)", place)
            close = get_close_matches(
                name, [*FUNCTIONS, *GATHER, *self.more_functions(), "random", "walk", "range"], 3, 0.5
            )
            there = f"near it are {', '.join(close)}" if close else "the reference lists all functions"
            self.fail(f"there is no function '{name}'; {there}", column_of(node.func, self.source))
        return self.apply(FUNCTIONS[name], arguments, place)

    def special_call(self, name: str, node: ast.Call, place: Place) -> ir.Expression | None:
        """Calls that only a script may hold; None if it is none of them."""
        return None

    def more_functions(self) -> list[str]:
        """Names that can be called besides the functions of the language."""
        return []

    def no_method(self, node: ast.Attribute) -> str:
        return f"'.{node.attr}()' cannot be called here; functions take their values in brackets, e.g. length(v)"

    def no_names(self, name: str, node: ast.Call, place: Place) -> None:
        if node.keywords:
            self.fail(f"{name} takes its values in order, without names", place)

    def profile(self, name: str, arguments: tuple[ir.Expression, ...], place: Place) -> ir.Profile:
        at = convert(arguments[0], NUMBER) if len(arguments) == 1 else None
        if at is None:
            self.fail(f"{name} is asked at one number, e.g. {name}(fraction)", place)
        return ir.Profile(self.profile_type(name), place, name, at)

    def profile_type(self, name: str) -> Type:
        return TYPES[getattr(self.scope.profiles[name], "type", "number")]

    def random(self, arguments: tuple[ir.Expression, ...], place: Place) -> ir.Expression:
        if len(arguments) > 2 or any(argument.type is not INTEGER for argument in arguments):
            self.fail("write random() or random(seed) with a whole number as seed, or random(seed, piece)", place)
        seed = arguments[0] if arguments else ir.Constant(INTEGER, place, 0)
        identity = ir.Read(IDENTITY, place, self.scope.kind, "") if len(arguments) < 2 else arguments[1]
        if isinstance(identity, ir.Read) and identity.name:
            identity = replace(identity, name=self.scope.stable_label(identity.kind, identity.name))
        return ir.Apply(NUMBER, place, RANDOM, (identity, seed))

    def walk(self, arguments: tuple[ir.Expression, ...], place: Place) -> ir.Walk:
        if self.scope.kind != "point":
            self.fail(
                f"walk() runs on points, and this runs on each {self.scope.kind}; set a point attribute first", place
            )
        if len(arguments) != 1 or arguments[0].type is not FLAG:
            self.fail(
                "write walk(x) with a group or condition that holds where the way begins, e.g. walk(border)", place
            )
        if may_change(arguments[0], self.written_here()):
            self.fail("walk() looks at all points at once: it cannot use what the script names or writes itself", place)
        return ir.Walk(NUMBER, place, arguments[0])
