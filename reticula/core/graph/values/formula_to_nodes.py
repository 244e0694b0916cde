"""From text to value nodes: a formula, or a script without loops, drawn as wires that give the same values."""

from __future__ import annotations

import ast
from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any, NoReturn

from reticula.core.errors import FormulaError, GraphError
from reticula.core.graph.nesting.graph_operator import operator_of
from reticula.core.graph.structure.document import Document
from reticula.core.language.controls import declared, statements_of
from reticula.core.language.parse import Parsed, column_of, parse, parse_script
from reticula.core.language.syntax_trees import syntax_tree
from reticula.core.operators.declaration.parameters import Selection, is_wire
from reticula.core.operators.values.maths import SYMBOLS, WORKS

__all__ = ["ValueGraph", "formula_to_nodes", "script_to_nodes"]

Operand = Any
BINARY = {
    ast.Add: "+",
    ast.Sub: "-",
    ast.Mult: "*",
    ast.Div: "/",
    ast.FloorDiv: "//",
    ast.Mod: "%",
    ast.Pow: "**",
}
COMPARE = {ast.Eq: "==", ast.NotEq: "!=", ast.Lt: "<", ast.LtE: "<=", ast.Gt: ">", ast.GtE: ">="}
PARTS = ("x", "y", "z", "w", "xy", "xz", "yz", "xyz")
NOISES = ("noise", "noise3", "cells", "cell_number")


@dataclass
class ValueGraph:
    """New nodes by id; ``value`` is what the parameter holds then, ``last`` the node that replaces a script."""

    nodes: dict[str, dict[str, Any]] = field(default_factory=dict)
    value: Operand = None
    last: str | None = None


def formula_to_nodes(document: Document, node: str, parameter: str) -> ValueGraph:
    """Draw the formula of a parameter as value nodes; raises GraphError if it holds none."""
    chosen = operator_of(document["nodes"][node])
    declared_parameter = chosen.parameter(parameter)
    value = document["nodes"][node].get("parameters", {}).get(parameter, declared_parameter.default)
    if isinstance(value, Mapping) and "formula" in value:
        text = str(value["formula"])
    elif isinstance(declared_parameter, Selection) and isinstance(value, str) and value.strip():
        text = value
    else:
        raise GraphError(f"'{parameter}' holds no formula", node=node, parameter=parameter)
    pen = _NodeWriter(text, set(document["nodes"]))
    drawn = pen.drawn
    result = pen.program(parse(text))
    drawn.value = result if is_wire(result) else {"wire": pen.node("number_value", value=result)}
    return drawn


def script_to_nodes(document: Document, node: str) -> ValueGraph:
    """Draw a script without loops as set-attribute nodes fed by value nodes; raises FormulaError for what cannot be
    drawn.
    """
    entry = document["nodes"][node]
    chosen = operator_of(entry)
    values = chosen.check(entry.get("parameters", {}))
    text, each = values["source"], values["each"]
    if each in ("piece", "once"):
        raise GraphError("a script that runs once, or on pieces, cannot be drawn as nodes", node=node)
    pen = _NodeWriter(text, set(document["nodes"]), writes=True)
    known = declared(text)
    for control in known.controls:
        value = values["controls"].get(control.name, control.default)
        if control.what in ("curve", "gradient"):
            pen.fail(f"the control '{control.name}' is a {control.what}, which has no value node", control.place)
        pen.names[control.name] = {"wire": pen.node("number_value", title=control.name, value=value)}
    wired = [(port.name, entry.get("inputs", {}).get(port.name, [])) for port in known.inputs]
    if len(wired) > 1:
        pen.fail("nodes that set an attribute ask one other geometry; this text asks several", known.inputs[1].place)
    pen.inputs = {name: "source" for name, _ in wired}
    pen.program(Parsed(tuple(statements_of(parse_script(text))), None))
    feed = entry.get("inputs", {}).get("geo", [])
    for name in pen.order():
        inputs = {"geo": feed, **({"source": wired[0][1]} if wired and wired[0][1] else {})}
        limit = pen.limits.get(name)
        where = {} if limit is None else {"where": limit if is_wire(limit) else str(limit)}
        made = pen.node("set_attribute", name=name, kind=each, value=pen.written[name], **where)
        pen.drawn.nodes[made] |= {"inputs": inputs, "title": f"Set {name.replace('_', ' ')}"}
        feed = [made]
        pen.drawn.last = made
    return pen.drawn


class _NodeWriter:
    """Draws one text.

    ``names`` are what its lines gave names to, ``written`` what goes to attributes of the element.
    """

    def __init__(self, text: str, taken: set[str], *, writes: bool = False) -> None:
        self.text, self.taken, self.writes = text, set(taken), writes
        self.drawn = ValueGraph()
        self.names: dict[str, Operand] = {}
        self.written: dict[str, Operand] = {}
        self.limits: dict[str, Operand] = {}
        self.inputs: dict[str, str] = {}

    def node(self, operator: str, *, title: str = "", **parameters: Any) -> str:
        number = 1
        while f"{operator}_{number}" in self.taken:
            number += 1
        name = f"{operator}_{number}"
        self.taken.add(name)
        self.drawn.nodes[name] = {"operator": operator, "parameters": parameters} | ({"title": title} if title else {})
        return name

    def wire(self, operator: str, **parameters: Any) -> Operand:
        """A wire from a new node, or from one that is the same."""
        for name, node in self.drawn.nodes.items():
            if node == {"operator": operator, "parameters": parameters}:
                return {"wire": name}
        return {"wire": self.node(operator, **parameters)}

    def fail(self, message: str, place: Any) -> NoReturn:
        line, column, length = place
        raise FormulaError(message, line=line, column=column, length=length)

    def refuse(self, node: ast.expr | ast.stmt, what: str) -> NoReturn:
        self.fail(f"{what} cannot be drawn as nodes", column_of(node, self.text))

    # ---- statements

    def program(self, parsed: Parsed) -> Operand:
        self.block(parsed.statements)
        return self.value(parsed.value) if parsed.value is not None else None

    def block(self, statements: Any) -> None:
        for statement in statements:
            match statement:
                case ast.Assign(targets=[target], value=value):
                    self.store(target, self.value(value))
                case ast.AugAssign(target=target, op=op, value=value):
                    old = ast.copy_location(syntax_tree(ast.unparse(target), "eval").body, target)
                    made = self.wire("maths_value", how=BINARY[type(op)], a=self.value(old), b=self.value(value))
                    self.store(target, made)
                case ast.If(test=test, body=body, orelse=otherwise):
                    self.branch(test, body, otherwise)
                case ast.Expr(value=ast.Constant()) | ast.Pass():
                    continue
                case ast.For() | ast.While():
                    self.refuse(statement, "a loop")
                case _:
                    self.refuse(statement, "this line")

    def store(self, target: ast.expr, value: Operand) -> None:
        match target:
            case ast.Name(id=name):
                self.names[name] = value
            case ast.Attribute(value=ast.Name(id="here"), attr=name) if self.writes:
                self.written[name] = value
                self.limits.pop(name, None)
            case _:
                self.refuse(target, "this target")

    def branch(self, test: ast.expr, body: Any, otherwise: Any) -> None:
        """Both ways are drawn; where they differ a switch chooses, and what only one writes is limited to it."""
        condition = self.value(test)
        before = dict(self.names), dict(self.written), dict(self.limits)
        self.block(body)
        names, written, limits = self.names, self.written, self.limits
        self.names, self.written, self.limits = (dict(part) for part in before)
        self.block(otherwise)
        for name in {**names, **self.names}:
            if name not in names or name not in self.names:
                self.names.pop(name, None)
            else:
                self.names[name] = self.switch(condition, names[name], self.names[name])
        opposite = (
            self.wire("compare_value", how="not", a=condition)
            if otherwise or set(self.written) - set(written)
            else None
        )
        for name in {**written, **self.written}:
            if name not in self.written:
                self.limits[name] = self.both(condition, limits.get(name))
                self.written[name] = written[name]
            elif name not in written:
                self.limits[name] = self.both(opposite, self.limits.get(name))
            else:
                self.limit_either(name, condition, limits.get(name))
                self.written[name] = self.switch(condition, written[name], self.written[name])

    def switch(self, condition: Operand, yes: Operand, no: Operand) -> Operand:
        return yes if yes == no else self.wire("switch_value", condition=condition, yes=yes, no=no)

    def both(self, first: Operand, second: Operand | None) -> Operand:
        return first if second is None else self.wire("compare_value", how="and", a=first, b=second)

    def limit_either(self, name: str, condition: Operand, first: Operand | None) -> None:
        """Where an attribute is written that both ways write, each perhaps not everywhere."""
        second = self.limits.pop(name, None)
        if first is not None or second is not None:
            yes, no = (True if limit is None else limit for limit in (first, second))
            self.limits[name] = self.switch(condition, yes, no)

    def order(self) -> list[str]:
        """The attributes in an order in which none is read after it was set."""
        reads = {
            name: (self.reads_of(value) | self.reads_of(self.limits.get(name))) - {name}
            for name, value in self.written.items()
        }
        left, done = list(self.written), []
        while left:
            free = next(
                (name for name in left if not any(name in reads[other] for other in left if other != name)), None
            )
            if free is None:
                raise GraphError(f"{' and '.join(left)} read each other, which nodes one after the other cannot do")
            left.remove(free)
            done.append(free)
        return done

    def reads_of(self, value: Operand) -> set[str]:
        """The attributes that a chain of drawn nodes reads."""
        found: set[str] = set()
        stack = [value]
        while stack:
            one = stack.pop()
            if is_wire(one):
                node = self.drawn.nodes[one["wire"]]
                stack += node["parameters"].values()
                if node["operator"] == "attribute_value":
                    stack.append({"formula": node["parameters"]["name"]})
            elif isinstance(one, Mapping) and "formula" in one:
                tree = syntax_tree(str(one["formula"]), "eval")
                found |= {part.id for part in ast.walk(tree) if isinstance(part, ast.Name)}
                found |= {part.attr for part in ast.walk(tree) if isinstance(part, ast.Attribute)}
        return found

    # ---- expressions

    def value(self, node: ast.expr) -> Operand:
        match node:
            case ast.Constant(value=bool() | int() | float() as value):
                return value
            case ast.UnaryOp(op=ast.USub(), operand=ast.Constant(value=int() | float() as value)):
                return -value
            case ast.UnaryOp(op=ast.USub(), operand=operand):
                return self.wire("maths_value", how="*", a=self.value(operand), b=-1)
            case ast.UnaryOp(op=ast.Not(), operand=operand):
                return self.wire("compare_value", how="not", a=self.value(operand))
            case ast.Name(id=name):
                if name in self.names:
                    return self.names[name]
                return self.wire("attribute_value", name=name)
            case ast.Attribute(value=ast.Name(id="here"), attr=name) if (
                name in self.written and name not in self.limits
            ):
                return self.written[name]
            case ast.Tuple(elts=parts) if len(parts) == 3:
                return self.wire("vector_value", **dict(zip("xyz", map(self.value, parts), strict=True)))
            case ast.BinOp(left=left, op=op, right=right):
                return self.wire("maths_value", how=BINARY[type(op)], a=self.value(left), b=self.value(right))
            case ast.BoolOp(op=op, values=values):
                how = "and" if isinstance(op, ast.And) else "or"
                joined = self.value(values[0])
                for term in values[1:]:
                    joined = self.wire("compare_value", how=how, a=joined, b=self.value(term))
                return joined
            case ast.Compare(left=left, ops=[op], comparators=[right]) if type(op) in COMPARE:
                if not any(isinstance(side, ast.Constant) and isinstance(side.value, str) for side in (left, right)):
                    return self.wire("compare_value", how=COMPARE[type(op)], a=self.value(left), b=self.value(right))
            case ast.IfExp(test=test, body=body, orelse=orelse):
                return self.wire(
                    "switch_value", condition=self.value(test), yes=self.value(body), no=self.value(orelse)
                )
            case ast.Call(func=ast.Name(id=name), args=arguments, keywords=[]):
                made = self.call(name, arguments)
                if made is not None:
                    return made
            case ast.Attribute(value=subject, attr=letters) if letters in PARTS and self.is_computed(subject):
                return self.wire("component_value", v=self.value(subject), part=letters)
            case ast.Attribute(
                value=ast.Call(func=ast.Attribute(value=ast.Name(id=owner), attr=how)) as call, attr=name
            ):
                made = self.question(owner, how, call.args, name)
                if made is not None:
                    return made
        return self.as_text(node)

    def is_computed(self, node: ast.expr) -> bool:
        """Whether something is a vector that is worked out, and not the elements of a list or an input."""
        if isinstance(node, ast.Name):
            return node.id != "here" and node.id not in self.inputs
        return isinstance(node, (ast.BinOp, ast.IfExp, ast.Tuple)) or (
            isinstance(node, ast.Call) and isinstance(node.func, ast.Name)
        )

    def call(self, name: str, arguments: list[ast.expr]) -> Operand | None:
        match name, len(arguments):
            case "mix", 3:
                return self.wire("mix_value", **dict(zip("abt", map(self.value, arguments), strict=True)))
            case "remap" | "rescale", 5:
                names = ("x", "low", "high", "to_low", "to_high")
                values = dict(zip(names, map(self.value, arguments), strict=True))
                return self.wire("remap_value", **values, inside=name == "remap")
            case "vec3", 3:
                return self.wire("vector_value", **dict(zip("xyz", map(self.value, arguments), strict=True)))
            case "random", 0 | 1:
                seed = arguments[0] if arguments else ast.Constant(0)
                if isinstance(seed, ast.Constant) and type(seed.value) is int:
                    return self.wire("random_value", seed=seed.value)
        if name in NOISES:
            octaves = arguments[1] if len(arguments) == 2 else ast.Constant(1)
            if isinstance(octaves, ast.Constant) and type(octaves.value) is int:
                return self.wire("noise_value", how=name, p=self.value(arguments[0]), scale=1, octaves=octaves.value)
        lists = name in ("min", "max") and len(arguments) == 1
        if name in WORKS and name not in SYMBOLS and not lists and 1 <= len(arguments) <= 3:
            return self.wire("maths_value", how=name, **dict(zip("abc", map(self.value, arguments), strict=False)))
        return None

    def question(self, owner: str, how: str, arguments: list[ast.expr], name: str) -> Operand | None:
        of = self.inputs.get(owner, owner)
        if how in ("closest", "nearest") and 1 <= len(arguments) <= 2:
            reach = {"reach": self.value(arguments[1])} if len(arguments) == 2 else {}
            return self.wire("nearest_value", of=of, p=self.value(arguments[0]), on=how, field=name, **reach)
        if how == "ray" and 2 <= len(arguments) <= 3:
            reach = {"reach": self.value(arguments[2])} if len(arguments) == 3 else {}
            return self.wire(
                "ray_value", of=of, p=self.value(arguments[0]), direction=self.value(arguments[1]), field=name, **reach
            )
        return None

    def as_text(self, node: ast.expr) -> Operand:
        """What has no node of its own is read as it is written, if it needs nothing that other lines gave names to."""
        for part in ast.walk(node):
            if isinstance(part, ast.Name) and part.id in self.names:
                self.refuse(node, f"'{ast.unparse(node)}', which uses '{part.id}',")
            if isinstance(part, ast.Name) and part.id in self.inputs:
                part.id = self.inputs[part.id]
            if isinstance(part, ast.Attribute) and part.attr in self.written and isinstance(part.value, ast.Name):
                self.refuse(node, f"'{ast.unparse(node)}', after it was set,")
        return self.wire("attribute_value", name=ast.unparse(node))
