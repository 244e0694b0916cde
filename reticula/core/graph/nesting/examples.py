"""Examples of operators: small graphs, written as a few lines in their declarations.

Each line gives what an operator makes a name, ``plate = disc(radius=0.4)``; names stand for geometries where they are
given first or for an input, and for a wire where they are given for a parameter. ``def one(geo, width=0.1): …`` makes a
graph that a node holds (``graph=one``): what has no default is an input, what has one is a dial.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator, Mapping
from functools import cache
from typing import Any

from reticula.core.graph.structure.document import empty_document
from reticula.core.operators import OPERATORS, Operator

__all__ = ["COLOURS", "example_of", "read_example"]

COLOURS = {"CORAL": [0.85, 0.36, 0.24, 1.0], "SAND": [0.86, 0.79, 0.66, 1.0], "WATER": [0.2, 0.5, 0.65, 1.0]}
"""What examples may name, as sRGB and opacity."""


@cache
def example_of(name: str) -> dict[str, Any]:
    """Return the example of an operator as a graph document."""
    return {**read_example(OPERATORS[name].example), "title": f"Example of {OPERATORS[name].label}"}


def read_example(text: str) -> dict[str, Any]:
    """Return the graph document that a few lines stand for; raise ValueError if they cannot be read."""
    return _Reader({}, {}).read(ast.parse(text).body)


class _Reader:
    """Reads one level of an example; ``dials`` are the names of those of its graph."""

    def __init__(self, graphs: Mapping[str, Any], dials: Mapping[str, Any]) -> None:
        self.graphs = dict(graphs)
        self.dials = dials
        self.feeds: dict[str, str] = {}
        self.nodes: dict[str, Any] = {}

    def read(self, lines: list[ast.stmt]) -> dict[str, Any]:
        """Return the document of these lines, which looks at what the last one makes."""
        last = ""
        for line in lines:
            match line:
                case ast.FunctionDef():
                    self.graphs[line.name] = _graph_of(line)
                case ast.Assign(targets=[ast.Name(id=name)], value=ast.Call() as call):
                    last = self.feeds[name] = self.node(call, name)
                case ast.Assign(targets=[ast.Tuple(elts=names)], value=ast.Call() as call):
                    last = self.outputs(call, names)
                case ast.Expr(value=ast.Call() as call):
                    last = self.node(call)
                case ast.Return(value=ast.Name(id=name)):
                    last = self.feeds[name]
                case _:
                    raise ValueError(f"an example cannot hold '{ast.unparse(line)}'")
        return {**empty_document(), "nodes": self.nodes, "looking_at": last, "result": last}

    def outputs(self, call: ast.Call, names: list[ast.expr]) -> str:
        made = self.node(call)
        outputs = OPERATORS[self.nodes[made]["operator"]].outputs
        for name, output in zip(names, outputs, strict=True):
            self.feeds[ast.unparse(name)] = f"{made}:{output.name}"
        return made

    def node(self, call: ast.Call, name: str = "") -> str:
        """Add the node of a call; returns its id."""
        entry = OPERATORS[ast.unparse(call.func)]
        holds = {key.value.id for key in call.keywords if key.arg == "graph" and isinstance(key.value, ast.Name)}
        graph = self.graphs[holds.pop()] if holds else None
        inputs = [given["name"] for given in graph["inputs"]] if graph else [given.name for given in entry.inputs]
        many = {given.name for given in entry.inputs if given.many}
        fed: dict[str, list[str]] = {}
        for place, given in enumerate(call.args):
            at = inputs[min(place, len(inputs) - 1)]
            if at in fed and at not in many:
                raise ValueError(f"{entry.name} takes no {place + 1} geometries")
            fed.setdefault(at, []).append(self.feed(given))
        parameters: dict[str, Any] = {}
        for key in call.keywords:
            if key.arg in inputs:
                fed[str(key.arg)] = [self.feed(key.value)]
            elif key.arg != "graph":
                parameters[str(key.arg)] = self.value(entry, str(key.arg), key.value)
        made = next(one for one in _free(name or entry.name) if one not in self.nodes)
        self.nodes[made] = {"operator": entry.name, "parameters": parameters}
        if fed:
            self.nodes[made]["inputs"] = fed
        if graph:
            self.nodes[made]["graph"] = graph
        return made

    def feed(self, given: ast.expr) -> str:
        if isinstance(given, ast.Call):
            return self.node(given)
        return self.feeds[ast.unparse(given)]

    def value(self, entry: Operator, name: str, given: ast.expr) -> Any:
        """What is stored for a parameter: a wire, a dial, or the checked value."""
        if isinstance(given, ast.Name) and given.id in self.feeds:
            return {"wire": self.feeds[given.id]}
        if isinstance(given, ast.Name) and given.id in self.dials:
            return {"dial": given.id}
        plain = COLOURS[given.id] if isinstance(given, ast.Name) else ast.literal_eval(given)
        return entry.parameter(name).check(plain)


def _free(name: str) -> Iterator[str]:
    yield name
    yield from (f"{name}_{number}" for number in range(2, 100))


def _graph_of(made: ast.FunctionDef) -> dict[str, Any]:
    """Return the graph that a function stands for, as a node holds it."""
    names = [argument.arg for argument in made.args.args]
    values = [ast.literal_eval(value) for value in made.args.defaults]
    inputs, turned = names[: len(names) - len(values)], names[len(names) - len(values) :]
    dials = {name: {"type": "number", "value": float(value)} for name, value in zip(turned, values, strict=True)}
    reader = _Reader({}, dials)
    for name in inputs:
        reader.nodes[f"in_{name}"] = {"operator": "input", "parameters": {"name": name}}
        reader.feeds[name] = f"in_{name}"
    graph = reader.read(made.body)
    feed = graph.pop("result")
    return {
        **graph,
        "title": made.name.replace("_", " "),
        "dials": dials,
        "inputs": [{"name": name, "help": ""} for name in inputs],
        "outputs": [{"name": inputs[0] if inputs else "geo", "help": "", "feed": feed}],
    }
