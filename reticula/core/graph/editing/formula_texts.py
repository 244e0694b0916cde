"""Every formula of a node, wherever it stands; and names that are free."""

from __future__ import annotations

import re
from collections.abc import Callable, Collection, Iterator, Mapping
from typing import Any

from reticula.core.errors import GraphError
from reticula.core.graph.nesting.dials import DialParameter
from reticula.core.graph.nesting.graph_operator import operator_of
from reticula.core.language.parse import members_read, names_read, replaced
from reticula.core.operators.declaration.parameters import FormulaText, Parameter, Selection
from reticula.core.operators.scripting.controls import Code

__all__ = ["feeds_in", "free_name", "map_feeds", "map_texts", "members_of", "names_of", "replace_in", "slug"]

Node = dict[str, Any]


def map_texts(node: Node, change: Callable[[str, bool], str]) -> None:
    """Put ``change(text, is_script)`` in place of every formula of a node."""
    try:
        known = {parameter.name: parameter for parameter in operator_of(node).parameters}
    except GraphError:
        known = {}
    parameters = node.get("parameters", {})
    for name, value in list(parameters.items()):
        parameters[name] = _mapped(value, known.get(name), change)


def _mapped(value: Any, parameter: Parameter | None, change: Callable[[str, bool], str]) -> Any:
    parameter = parameter.inner if isinstance(parameter, DialParameter) else parameter
    if isinstance(value, Mapping):
        if set(value) == {"formula"} and isinstance(value["formula"], str):
            return {"formula": change(value["formula"], False)}
        return {name: _mapped(one, None, change) for name, one in value.items()}
    if isinstance(value, str) and isinstance(parameter, Code):
        return change(value, True)
    if isinstance(value, str) and value.strip() and isinstance(parameter, (Selection, FormulaText)):
        return change(value, False)
    return value


def _texts(node: Node) -> list[str]:
    found: list[str] = []

    def take(text: str, script: bool) -> str:
        found.append(text)
        return text

    map_texts({**node, "parameters": dict(node.get("parameters", {}))}, take)
    return found


def names_of(node: Node) -> set[str]:
    """Return every bare name that a node's formulas read."""
    return {name for text in _texts(node) for name in names_read(text)}


def members_of(node: Node) -> set[tuple[str, str]]:
    """Return every ``a.b`` that a node's formulas read."""
    return {pair for text in _texts(node) for pair in members_read(text)}


def replace_in(node: Node, names: Mapping[str, str], members: Mapping[tuple[str, str], str]) -> None:
    """Put other texts in place of names and members in all formulas of a node."""
    if names or members:
        map_texts(node, lambda text, script: replaced(text, names, members, script=script))


def feeds_in(node: Node) -> Iterator[tuple[str, int, str]]:
    """Give every geometry wire of a node: its input, its number there, and the feed."""
    for entry, feeds in node.get("inputs", {}).items():
        for number, feed in enumerate(feeds):
            yield entry, number, feed


def map_feeds(graph: dict[str, Any], change: Callable[[str], str | None]) -> None:
    """Put ``change(feed)`` in place of every feed that a graph names; None takes the wire away."""
    for node in graph["nodes"].values():
        for entry, feeds in list(node.get("inputs", {}).items()):
            kept = [new for new in (change(feed) for feed in feeds) if new]
            if kept:
                node["inputs"][entry] = kept
            else:
                del node["inputs"][entry]
    for output in graph.get("outputs", []):
        if output.get("feed"):
            output["feed"] = change(output["feed"]) or ""
    for key in ("looking_at", "result"):
        if graph.get(key):
            graph[key] = change(graph[key])


def slug(text: str, otherwise: str = "node") -> str:
    """Return a text as a name: small letters, digits and _."""
    made = re.sub(r"[^a-z0-9]+", "_", text.lower()).strip("_")[:48]
    return f"{otherwise}_{made}" if made[:1].isdigit() else made or otherwise


def free_name(wanted: str, taken: Collection[str]) -> str:
    """Return a name that is not taken: the wanted one, or that with a number."""
    number, name = 2, wanted
    while name in taken:
        name = f"{wanted[:58]}_{number}"
        number += 1
    return name
