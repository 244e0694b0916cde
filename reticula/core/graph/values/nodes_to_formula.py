"""Value wires: a parameter fed by value nodes is a formula that the chain writes, line by line."""

from __future__ import annotations

import re
from collections.abc import Mapping
from copy import deepcopy
from typing import Any

from reticula.core.errors import GraphError, ParameterError
from reticula.core.graph.nesting.graph_operator import operator_of
from reticula.core.graph.structure.document import Document
from reticula.core.operators import Operator
from reticula.core.operators.declaration.parameters import is_wire
from reticula.core.operators.shared.value_node import Operand, literal

__all__ = ["nodes_to_formula", "value_feeds", "wires_to_formulas"]


def value_feeds(node: Mapping[str, Any]) -> dict[str, str]:
    """Return the value nodes that feed a node's parameters, by parameter."""
    return {name: value["wire"] for name, value in node.get("parameters", {}).items() if is_wire(value)}


def nodes_to_formula(document: Document, node: str) -> str:
    """Return the formula that a value node and all that feeds it write.

    Every node but the last becomes a line that names its value; the last line is the value. Raises GraphError for a
    wire from something that is no value node, or a circle.
    """
    lines: list[str] = []
    names: dict[str, str] = {}
    last = _write(document, node, names, lines, ())
    return "\n".join([*lines, last])


def _write(document: Document, node: str, names: dict[str, str], lines: list[str], path: tuple[str, ...]) -> str:
    """Return the expression of a node; those that feed it are added to ``lines``."""
    if node in path:
        raise GraphError(f"the wires run in a circle: {' → '.join((*path[path.index(node) :], node))}", node=node)
    if node not in document["nodes"]:
        raise GraphError(f"a wire comes from '{node}', which does not exist")
    entry = document["nodes"][node]
    chosen = operator_of(entry)
    if chosen.writes is None:
        raise GraphError(
            f"'{node}' makes a geometry, not a value; a parameter takes a wire from a value node", node=node
        )
    texts: dict[str, Any] = {}
    values = chosen.check({name: value for name, value in entry.get("parameters", {}).items() if not is_wire(value)})
    feeds = value_feeds(entry)
    for parameter in chosen.parameters:
        if parameter.name in feeds:
            texts[parameter.name] = _named(document, feeds[parameter.name], names, lines, (*path, node))
        elif isinstance(parameter, Operand):
            texts[parameter.name] = literal(values[parameter.name])
        else:
            texts[parameter.name] = values[parameter.name]
    if chosen.name == "formula_value":
        return _with_letters(node, texts, lines)
    return chosen.writes(**texts)


def _named(document: Document, node: str, names: dict[str, str], lines: list[str], path: tuple[str, ...]) -> str:
    """Return the name of a node's value; its line is written once."""
    if node not in names:
        written = _write(document, node, names, lines, path)
        names[node] = line_name(node)
        lines.append(f"{names[node]} = {written}")
    return names[node]


def line_name(node: str) -> str:
    """Return what the value of a node is called in a text."""
    plain = node.replace("-", "_")
    plain = plain if plain[:1].isalpha() else f"n_{plain.lstrip('_')}"
    return plain if "_value" in plain else f"{plain}_value"


def _with_letters(node: str, texts: Mapping[str, str], lines: list[str]) -> str:
    """A free formula: its letters become names of their own before it."""
    formula = texts["formula"]
    for letter in "abc":
        if re.search(rf"(?<![\w.]){letter}\b", formula):
            name = f"{line_name(node)}_{letter}"
            lines.append(f"{name} = {texts[letter]}")
            formula = re.sub(rf"(?<![\w.]){letter}\b(?!\s*\()", name, formula)
    return formula


def wires_to_formulas(document: Document) -> tuple[Document, dict[str, tuple[str, str]]]:
    """Return the document with formulas in place of value wires, and what is wrong: (parameter, message) by node."""
    wired = {name: value_feeds(node) for name, node in document["nodes"].items()}
    troubles: dict[str, tuple[str, str]] = {}
    changed: dict[str, dict[str, Any]] = {}
    for name, feeds in wired.items():
        if not feeds or _writes(document, name) is not None:
            continue
        parameters = dict(document["nodes"][name]["parameters"])
        for parameter, source in feeds.items():
            try:
                parameters[parameter] = {"formula": nodes_to_formula(document, source)}
            except GraphError as error:
                del parameters[parameter]
                troubles[name] = (parameter, str(error))
            except ParameterError as error:
                del parameters[parameter]
                troubles[name] = (parameter, f"the value node '{source}': {error}")
        changed[name] = parameters
    if not changed:
        return document, troubles
    copy = deepcopy(dict(document))
    for name, parameters in changed.items():
        copy["nodes"][name]["parameters"] = parameters
    return copy, troubles


def _writes(document: Document, name: str) -> Operator | None:
    """Return a node's operator if it is a value node."""
    try:
        chosen = operator_of(document["nodes"][name])
    except GraphError:
        return None
    return chosen if chosen.writes is not None else None
