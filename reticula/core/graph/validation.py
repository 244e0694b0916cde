"""What is wrong with a graph document: nodes and wires held against the operators that exist."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from reticula.core.errors import GraphError, ParameterError
from reticula.core.graph.nesting.binding import is_bound
from reticula.core.graph.nesting.graph_operator import operator_of
from reticula.core.graph.structure.document import Document, circle_of, split_feed
from reticula.core.graph.structure.linked import resolved
from reticula.core.graph.time.keys import without_keys
from reticula.core.operators.declaration.parameters import is_wire

__all__ = ["Problem", "problems_of"]


@dataclass(frozen=True)
class Problem:
    """Something wrong with a node (and parameter), in words."""

    node: str
    message: str
    parameter: str | None = None


def problems_of(document: Document) -> list[Problem]:
    """Return all that is wrong with single nodes; an empty list means that the graph can be evaluated."""
    found: list[Problem] = []
    document = resolved(document)
    nodes = document["nodes"]
    listed = [entry["name"] for entry in document.get("inputs", [])]
    for name, node in nodes.items():
        try:
            chosen = operator_of(node)
            chosen.check(_plain(document, node.get("parameters", {})))
        except ParameterError as error:
            found.append(Problem(name, str(error), error.parameter))
            continue
        except GraphError as error:
            found.append(Problem(name, str(error)))
            continue
        if node["operator"] == "input" and node.get("parameters", {}).get("name", "geo") not in listed:
            wanted = node.get("parameters", {}).get("name", "geo")
            there = f"it has {', '.join(listed)}" if listed else "it has none yet"
            found.append(
                Problem(name, f"this graph has no input '{wanted}'; {there}. Add it at the graph's edge", "name")
            )
        known = {entry.name: entry for entry in chosen.inputs_for(node.get("parameters", {}))}
        for entry, feeds in node.get("inputs", {}).items():
            if entry not in known:
                if chosen.more_inputs is not None:
                    continue
                there = ", ".join(known) or "none"
                found.append(Problem(name, f"{chosen.label} has no input '{entry}'; it has {there}"))
            elif len(feeds) > 1 and not known[entry].many:
                found.append(Problem(name, f"the input '{entry}' takes one geometry, not {len(feeds)}"))
            for feed in feeds:
                problem = _feed_problem(nodes, entry, feed)
                if problem:
                    found.append(Problem(name, problem))
    circle = circle_of(document)
    if circle:
        found.append(Problem(circle[0], f"the wires run in a circle: {' → '.join(circle)}"))
    for key in ("looking_at", "result"):
        if document.get(key) and split_feed(document[key])[0] not in nodes:
            found.append(Problem(document[key], f"'{key}' names the node '{document[key]}', which does not exist"))
    return found


def _plain(document: Document, parameters: Mapping[str, Any]) -> dict[str, Any]:
    """Return the parameters that hold values of their own: no wires, nothing bound to a dial (which must exist)."""
    dials = document.get("dials", {})
    made: dict[str, Any] = {}
    for name, value in parameters.items():
        bound = [value] if is_bound(value) else []
        if isinstance(value, Mapping) and not bound:
            bound = [one for one in value.values() if is_bound(one)]
            value = {key: one for key, one in value.items() if not is_bound(one)} if bound else value
        for one in bound:
            if one["dial"] not in dials:
                raise ParameterError(name, f"there is no dial '{one['dial']}'; there are {', '.join(dials) or 'none'}")
        value = without_keys(name, value, lambda _, keys: keys.values[0])
        if not is_wire(value) and not is_bound(value):
            made[name] = value
    return made


def _feed_problem(nodes: Mapping[str, Any], entry: str, feed: str) -> str | None:
    name, output = split_feed(feed)
    if name not in nodes:
        return f"the input '{entry}' comes from '{name}', which does not exist"
    try:
        names = [made.name for made in operator_of(nodes[name]).outputs]
    except GraphError:
        return None
    if output and output not in names:
        return f"the input '{entry}' comes from the output '{output}' of '{name}', which has {', '.join(names)}"
    return None
