"""A graph is an operator: inputs, outputs and dials of a nested or published graph as one declaration."""

from __future__ import annotations

import hashlib
import json
from collections import Counter, OrderedDict
from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from typing import Any

from reticula.core.errors import GraphError, ParameterError
from reticula.core.geometry import Geo
from reticula.core.graph.nesting.contracts import condition_text
from reticula.core.graph.nesting.dials import dial_of
from reticula.core.graph.structure.document import Document
from reticula.core.graph.structure.library import is_published, library, published_name, references
from reticula.core.operators import OPERATORS, Operator, find_operator
from reticula.core.operators.declaration.operator import Input, Output
from reticula.core.operators.shared.nested_graph import LOOP_NAMES, names_given

__all__ = [
    "HOLDERS",
    "STARTING",
    "content_of",
    "digest_of",
    "graph_runner",
    "graph_trouble",
    "nested_operator",
    "operator_of",
]

HOLDERS = tuple(name for name, entry in OPERATORS.items() if entry.holds_graph)
"""Operators whose nodes hold a graph."""
STARTING: dict[str, Any] = {
    "format": "reticula graph",
    "version": 1,
    "dials": {},
    "inputs": [{"name": "geo", "help": "geometry to work on"}],
    "outputs": [{"name": "geo", "help": "the result", "feed": "start"}],
    "nodes": {"start": {"operator": "input", "parameters": {"name": "geo"}}},
}
"""What a node that holds a graph begins with: what comes in goes out."""
COSMETIC = {
    "title",
    "notes",
    "frames",
    "jumps",
    "standpoints",
    "looking_at",
    "presets",
    "place",
    "result",
    "left",
    "linked",
}
MOST_KEPT = 512
_kept: OrderedDict[str, Operator] = OrderedDict()


class GraphRunner:
    """What runs the graph that an operator holds: made operator, the one that says how often, geometries, resolved
    values.

    :mod:`reticula.core.graph.evaluation` provides it; a declaration knows nothing of evaluation.
    """

    run: Callable[[Operator, Operator, Sequence[Geo | None], dict[str, Any]], tuple[Geo, ...]]


graph_runner = GraphRunner()


def digest_of(data: Any) -> str:
    """Return a hash of plain JSON data."""
    return hashlib.blake2b(json.dumps(data, sort_keys=True).encode(), digest_size=16).hexdigest()


def content_of(graph: Document) -> str:
    """Return a hash of all in a graph that its result can depend on, published operators in it included."""
    named = {}
    for operator in sorted(references(graph)):
        definition = library().definition(operator)
        named[operator] = content_of(definition["graph"]) if definition else ""
    return digest_of([_essence(graph), named])


def _essence(graph: Document) -> dict[str, Any]:
    nodes = {}
    for name, node in graph["nodes"].items():
        kept = {key: value for key, value in node.items() if key not in COSMETIC}
        nodes[name] = {**kept, "graph": _essence(node["graph"])} if "graph" in node else kept
    return {**{key: value for key, value in graph.items() if key not in COSMETIC}, "nodes": nodes}


def operator_of(node: Mapping[str, Any]) -> Operator:
    """Return a node's operator, the graph that it holds or names included; raise GraphError if it does not exist."""
    name = node["operator"]
    if name in HOLDERS:
        return nested_operator(find_operator(name), node.get("graph", STARTING))
    if is_published(name):
        definition = library().definition(name)
        if definition is None:
            raise GraphError(_missing(name))
        return published_operator(definition)
    try:
        return find_operator(name)
    except KeyError as error:
        raise GraphError(error.args[0]) from None


def _missing(operator: str) -> str:
    name, release = published_name(operator)
    there = library().releases(name)
    if there:
        return f"the catalogue has no release {release} of '{name}'; it has {', '.join(there)}"
    return f"the catalogue has no operator '{operator}'; import the package that holds it, or fetch it from the depot"


def published_operator(definition: Mapping[str, Any]) -> Operator:
    """Return a published operator by its definition."""
    title = definition.get("title") or definition["name"].replace("_", " ")
    made = nested_operator(
        find_operator("folded"), definition["graph"], name=f"{definition['name']}@{definition['release']}"
    )
    return replace(
        made,
        holds_graph=False,  # its nodes name the graph, they have none of their own
        title=title,
        family=definition.get("family") or "published",
        summary=definition.get("summary", ""),
        description=definition.get("help", ""),
        keywords=tuple(definition.get("tags", ())),
    )


def nested_operator(base: Operator, graph: Document, *, name: str = "") -> Operator:
    """Return ``base`` with the inputs, outputs and dials of the graph that it runs.

    Raises GraphError if a dial is broken or has the name of a parameter of ``base``.
    """
    content = content_of(graph)
    key = f"{base.name} {name} {content}"
    if key not in _kept:
        _kept[key] = _declared(base, graph, name or base.name, content)
        while len(_kept) > MOST_KEPT:
            _kept.popitem(last=False)
    _kept.move_to_end(key)
    return _kept[key]


def _declared(base: Operator, graph: Document, name: str, content: str) -> Operator:
    trouble = graph_trouble(graph)
    if trouble:
        raise GraphError(f"the graph inside: {trouble}")
    own = {parameter.name for parameter in base.parameters}
    dials = []
    for dial, settings in graph.get("dials", {}).items():
        if dial in own:
            raise GraphError(f"the dial '{dial}' has the name of a parameter of {base.label}; rename it")
        if dial in (given := names_given(base.name)):
            raise GraphError(f"a dial cannot be called '{dial}' here: that is {given[dial]}; rename it")
        try:
            dials.append(dial_of(dial, settings))
        except ParameterError as error:
            raise GraphError(f"the dial '{dial}' inside: its default does not fit: {error}") from None
    inputs = tuple(
        Input(entry["name"], _expected(entry), optional=entry.get("optional", False), own_space=True)
        for entry in graph.get("inputs", [])
    )
    outputs = tuple(Output(entry["name"], entry.get("help", "")) for entry in graph.get("outputs", []))

    def body(*geometries: Geo | None, **resolved: Any) -> tuple[Geo, ...]:
        return graph_runner.run(made, base, geometries, resolved)

    made = replace(
        base,
        name=name,
        inputs=inputs,
        outputs=outputs or (Output(),),
        parameters=(*base.parameters, *dials),
        body=body,
        content=content,
        graph=graph,
    )
    return made


def _expected(entry: Mapping[str, Any]) -> str:
    expects = [condition_text(condition) for condition in entry.get("expects", [])]
    help = entry.get("help", "")
    return f"{help} ({'; '.join(expects)})" if expects else help


def graph_trouble(graph: Document) -> str | None:
    """Say what is wrong with the edge of a graph: names that stand twice, outputs that nothing feeds; None if
    nothing.
    """
    for what in ("inputs", "outputs"):
        names = Counter(entry["name"] for entry in graph.get(what, []))
        for name, count in names.items():
            if count > 1:
                return f"two {what} are called '{name}'; rename one"
    for entry in graph.get("outputs", []):
        feed = entry.get("feed", "").partition(":")[0]
        if feed not in graph["nodes"]:
            return f"nothing feeds the output '{entry['name']}'; choose the card whose result it is"
    for name in graph.get("dials", {}):
        if name in LOOP_NAMES:
            return f"a dial cannot be called '{name}': inside of loops that is {LOOP_NAMES[name]}"
    return None
