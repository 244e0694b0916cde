"""From the syntax tree to the typed intermediate form: blocks, the flow through them, and functions."""

from __future__ import annotations

import ast
from collections.abc import Sequence

from reticula.core.errors import FormulaError
from reticula.core.language import ir
from reticula.core.language.limits import DEEPEST, MOST_VARIANTS
from reticula.core.language.parse import Parsed, Place, column_of
from reticula.core.language.scope import Scope
from reticula.core.language.typecheck.assignments import Variant, Wider
from reticula.core.language.typecheck.creation import CreationChecker
from reticula.core.language.typecheck.environment import MAKERS, as_vector, convert, join_types
from reticula.core.language.types import (
    NOTHING,
    UNKNOWN_LIST,
    PlaceOf,
    Type,
    in_words,
    is_list,
    item_of,
)

__all__ = ["check_program"]

MOST_WIDENINGS = 60
"""How often a text is gone through anew; all names that turn out to need a wider type in one go count once."""


def check_program(
    source: str, parsed: Parsed, scope: Scope, statements: Sequence[ast.stmt] | None = None
) -> ir.Program:
    """Return the typed form of a formula or script; raise FormulaError with line, column and what to do.

    ``statements`` are those of ``parsed`` without its declarations, which ``scope`` knows as dials, profiles and
    inputs.
    """
    wider: dict[tuple[str, str], Type] = {}
    for _ in range(MOST_WIDENINGS):
        checker = ProgramChecker(source, scope, wider)
        try:
            return checker.program(parsed.statements if statements is None else statements, parsed.value)
        except Wider:
            continue
    raise FormulaError(
        "too many names change their type one because of the other; give them one at the start, e.g. total = 0.0"
    )


class ProgramChecker(CreationChecker):
    """Checks a whole text."""

    def program(self, statements: Sequence[ast.stmt], value: ast.expr | None) -> ir.Program:
        for statement in statements:
            if isinstance(statement, ast.FunctionDef):
                self.define(statement)
        body, _ = self.block([s for s in statements if not isinstance(s, ast.FunctionDef)])
        result = as_vector(self.lower(value)) if value is not None else None
        if value is not None and (self.writes or self.adds):
            self.fail("a formula gives a value and writes nothing", Place((1, 1, 1)))
        return ir.Program(self.scope.kind, body, self.top.types, self.routines, self.writes, self.adds, result)

    # ---- blocks and flow

    def block(self, nodes: Sequence[ast.stmt]) -> tuple[tuple[ir.Statement, ...], bool]:
        """Check statements; returns them and whether the flow goes on behind them.

        After a name that needs a wider type the rest is looked through as well, so that all such names of a text are
        found at once.
        """
        made: list[ir.Statement] = []
        goes_on, again = True, False
        frame = self.frame
        for node in nodes:
            try:
                if not goes_on:
                    self.fail("this line is never reached", column_of(node, self.source))
                statements, goes_on = self.statement(node)
                made += statements
            except Wider:
                if self.frame is not frame:
                    raise  # out of the middle of a function
                again = True
            except FormulaError:
                if again:
                    raise Wider from None
                raise
        if again:
            raise Wider
        return tuple(made), goes_on

    def statement(self, node: ast.stmt) -> tuple[list[ir.Statement], bool]:
        place = column_of(node, self.source)
        match node:
            case ast.Assign(targets=targets, value=value):
                return self.assignment(targets, value, place), True
            case ast.AugAssign(target=target, op=op, value=value):
                return self.augmented(target, op, value, place), True
            case ast.If():
                return self.branch(node, place)
            case ast.For():
                return self.for_loop(node, place), True
            case ast.While():
                return self.while_loop(node, place)
            case ast.Expr(value=value):
                return self.bare(value, place), True
            case ast.Pass():
                return [], True
            case ast.Break() | ast.Continue():
                return [self.leave(node, place)], False
            case ast.Return(value=returned):
                return [self.give_back(returned, place)], False
            case ast.FunctionDef():
                self.fail("a function is defined at the left edge, not inside of another block", place)
            case ast.AnnAssign():
                self.fail("a control is declared at the left edge, not inside of a block", place)
        self.fail("this cannot stand here", place)

    def branch(self, node: ast.If, place: Place) -> tuple[list[ir.Statement], bool]:
        test = self.flag(node.test)
        before = set(self.frame.defined)
        body, first = self.block(node.body)
        after_body = self.frame.defined
        self.frame.defined = set(before)
        otherwise, second = self.block(node.orelse)
        after_else = self.frame.defined
        ways = [names for names, reached in ((after_body, first), (after_else, second)) if reached]
        self.frame.maybe |= after_body | after_else
        self.frame.defined = set.intersection(*ways) if ways else before
        return [ir.If(place, test, body, otherwise)], first or second

    def loop_body(
        self, nodes: Sequence[ast.stmt], set_before: Sequence[str] = ()
    ) -> tuple[tuple[ir.Statement, ...], list[set[str]]]:
        """Check the body of a loop; what it assigns may or may not have a value when a round begins."""
        every = [part for node in nodes for part in ast.walk(node)]
        passing = {id(part.target) for part in every if isinstance(part, ast.comprehension)}
        assigned = {
            part.id
            for part in every
            if isinstance(part, ast.Name) and isinstance(part.ctx, ast.Store) and id(part) not in passing
        }
        before = set(self.frame.defined)
        self.frame.maybe |= assigned - before
        self.frame.defined |= set(set_before)
        self.frame.breaks.append([])
        body, _ = self.block(nodes)
        exits = self.frame.breaks.pop()
        self.frame.maybe |= self.frame.defined
        self.frame.defined = before
        return body, exits

    def for_loop(self, node: ast.For, place: Place) -> list[ir.Statement]:
        if node.orelse:
            self.fail("a loop cannot have an 'else'", column_of(node.orelse[0], self.source))
        items = self.items(node.iter)
        if isinstance(node.target, ast.Name):
            name = node.target.id
            first: list[ir.Statement] = []
            self.take_name(name, column_of(node.target, self.source))
        else:
            name, first = self.unpack_item(node.target, item_of(items.type), place)
        type = self.set_type(name, item_of(items.type), place)
        if type != item_of(items.type):
            passed = self.fresh_name(item_of(items.type))
            value = convert(ir.Local(item_of(items.type), place, passed), type)
            assert value is not None
            first, name = [ir.Assign(place, name, value), *first], passed
        names = [name, *(s.name for s in first if isinstance(s, ir.Assign))]
        body, exits = self.loop_body(node.body, names)
        for known in exits:
            self.frame.maybe |= known
        return [ir.For(place, name, items, (*first, *body))]

    def unpack_item(self, target: ast.expr, item: Type, place: Place) -> tuple[str, list[ir.Statement]]:
        """A loop over vectors whose components get names: ``for x, y in pairs``."""
        name = self.fresh_name(item)
        self.frame.defined.add(name)
        return name, self.unpack(target, ir.Local(item, place, name), place)

    def while_loop(self, node: ast.While, place: Place) -> tuple[list[ir.Statement], bool]:
        if node.orelse:
            self.fail("a loop cannot have an 'else'", column_of(node.orelse[0], self.source))
        test = self.flag(node.test)
        endless = isinstance(test, ir.Constant) and bool(test.value)
        before = set(self.frame.defined)
        body, exits = self.loop_body(node.body)
        if endless:
            self.frame.defined = set.intersection(*exits) if exits else before
        return [ir.While(place, test, body)], bool(exits) or not endless

    def leave(self, node: ast.stmt, place: Place) -> ir.Statement:
        word = "break" if isinstance(node, ast.Break) else "continue"
        if not self.frame.breaks:
            self.fail(f"'{word}' stands inside of a loop", place)
        if word == "continue":
            return ir.Continue(place)
        self.frame.breaks[-1].append(set(self.frame.defined))
        return ir.Break(place)

    # ---- calls

    def bare(self, node: ast.expr, place: Place) -> list[ir.Statement]:
        """An expression on a line of its own."""
        match node:
            case ast.Constant(value=str()):
                return []
            case ast.Call(func=ast.Attribute(value=ast.Name(id=name), attr="append"), args=[item], keywords=[]):
                if is_list(self.name(name, place).type):
                    self.own_list(name, place)
                    return [ir.Append(place, name, self.as_item(name, self.lower(item), place))]
            case ast.Call(func=ast.Name(id="print")):
                self.no_names("print", node, place)
                return [ir.Print(place, tuple(self.lower(part) for part in node.args))]
            case ast.Call(func=ast.Name(id="remove")):
                return [self.remove(node, place)]
            case ast.Call(func=ast.Name(id="add_segments"), args=[points], keywords=[]):
                return self.segments(points, place)
        value = self.lower(node)
        if isinstance(value, (ir.MakePoint, ir.MakeChain, ir.Call)):
            return [ir.Do(place, value)]
        self.fail("this line works something out and does nothing with it; write here.name = … to keep it", place)

    def special_call(self, name: str, node: ast.Call, place: Place) -> ir.Expression | None:
        if name in self.functions:
            self.no_names(name, node, place)
            return self.call_function(name, tuple(self.lower(argument) for argument in node.args), place)
        if name not in MAKERS and name not in ("print", "remove"):
            return None
        keywords = {word.arg: word.value for word in node.keywords}
        extra = {"add_point": "like", "add_curve": "closed"}.get(name)
        given = [*node.args, *(keywords[extra],)] if set(keywords) == {extra} and len(node.args) == 1 else node.args
        if (keywords and given is node.args) or not 1 <= len(given) <= (2 if extra else 1):
            self.fail(f"write {MAKERS.get(name, name)}", place)
        match name:
            case "add_point":
                return self.make_point([self.lower(part) for part in given], place)
            case "add_curve" | "add_face":
                return self.make_chain(name, [self.lower(part) for part in given], place)
        self.fail(f"{name} stands on a line of its own", place)

    def more_functions(self) -> list[str]:
        return [*self.functions, *MAKERS, "remove", "print"]

    def no_method(self, node: ast.Attribute) -> str:
        if node.attr == "append":
            return "append stands on a line of its own, on a list that the script made: values.append(x)"
        return super().no_method(node)

    # ---- functions

    def define(self, node: ast.FunctionDef) -> None:
        place = column_of(node, self.source)
        arguments = node.args
        plain = not (
            arguments.posonlyargs or arguments.kwonlyargs or arguments.vararg or arguments.kwarg or arguments.defaults
        )
        if not plain or node.decorator_list or node.returns or any(one.annotation for one in arguments.args):
            self.fail("a function is written def name(a, b): with plain names, without defaults or types", place)
        if node.name in self.functions:
            self.fail(f"'{node.name}' is defined twice", place)
        self.take_name(node.name, place)
        for one in arguments.args:
            self.take_name(one.arg, column_of(one, self.source))
        self.functions[node.name] = node

    def call_function(self, name: str, arguments: tuple[ir.Expression, ...], place: Place) -> ir.Call:
        node = self.functions[name]
        names = [one.arg for one in node.args.args]
        if len(arguments) != len(names):
            self.fail(f"write {name}({', '.join(names)})", place)
        for argument in arguments:
            if argument.type == UNKNOWN_LIST:
                self.fail("a list that is handed over must hold something first", argument.place)
        types = tuple(argument.type for argument in arguments)
        variant = self.variants.get((name, types))
        if variant is None:
            variant = self.check_function(node, names, types, place)
        if variant.busy and variant.result is None:
            self.fail(
                f"'{name}' calls itself before it is known what it gives; return without that in a line before", place
            )
        return ir.Call(variant.result or NOTHING, place, variant.routine, arguments)

    def check_function(self, node: ast.FunctionDef, names: list[str], types: tuple[Type, ...], place: Place) -> Variant:
        if len(self.variants) >= MOST_VARIANTS or self.depth >= DEEPEST:
            self.fail(f"'{node.name}' is called with too many different types, or too deep", place)
        variant = Variant(key=f"{node.name}({', '.join(map(str, types))})", routine=f"{node.name} {len(self.variants)}")
        self.variants[node.name, types] = variant
        variant.result = self.wider.get((variant.key, "return"))
        outer, self.frame = self.frame, variant
        self.depth += 1
        converted: list[ir.Statement] = []
        for one, type in zip(names, types, strict=True):
            variant.types[one] = self.wider.get((variant.key, one), type)
            variant.defined.add(one)
            if variant.types[one] != type:
                value = convert(ir.Local(type, place, f"{one} given"), variant.types[one])
                assert value is not None
                converted.append(ir.Assign(place, one, value))
                variant.types[f"{one} given"] = type
        body, goes_on = self.block(node.body)
        if goes_on and variant.returns and variant.result is not None:
            self.fail(
                f"'{node.name}' gives a value on one way but ends without one on another", column_of(node, self.source)
            )
        self.frame = outer
        self.depth -= 1
        variant.busy = False
        given = tuple(f"{one} given" if f"{one} given" in variant.types else one for one in names)
        result = variant.result or NOTHING
        self.routines[variant.routine] = ir.Routine(variant.routine, given, variant.types, (*converted, *body), result)
        return variant

    def give_back(self, node: ast.expr | None, place: Place) -> ir.Return:
        frame = self.frame
        if frame is self.top:
            self.fail(
                "'return' stands inside of a function; to leave an element as it is, put the rest under 'if'", place
            )
        value = as_vector(self.lower(node)) if node is not None else None
        if frame.returns and (value is None) != (frame.result is None):
            self.fail("a function gives a value at every 'return' or at none", place)
        if value is None:
            frame.returns = True
            return ir.Return(place, None)
        if value.type == UNKNOWN_LIST or isinstance(value.type, PlaceOf):
            self.fail(f"a function cannot give {in_words(value.type)}", place)
        joined = value.type if frame.result is None else join_types(frame.result, value.type)
        if joined is None:
            self.fail(f"it gives {in_words(frame.result or NOTHING)} before and {in_words(value.type)} here", place)
        if frame.result is not None and joined != frame.result:
            self.wider[frame.key, "return"] = joined
            raise Wider
        frame.result, frame.returns = joined, True
        return ir.Return(place, convert(value, joined))
