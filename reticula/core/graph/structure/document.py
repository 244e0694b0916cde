"""The graph document: plain JSON that fits a schema, its wires and their order. Knows no operators."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Callable, Iterable, Mapping, Sequence
from functools import cache
from importlib import resources
from typing import Any

from reticula.core.errors import GraphError
from reticula.core.graph.structure.extent import check_depth
from reticula.core.graph.structure.linked import check_links

__all__ = [
    "Document",
    "ancestors",
    "check_structure",
    "chosen_node",
    "circle_of",
    "empty_document",
    "feeds_of",
    "order_of",
    "schema",
    "split_feed",
]

Document = Mapping[str, Any]
"""A graph as plain JSON data."""


@cache
def schema() -> dict[str, Any]:
    """Return the JSON Schema of graph documents."""
    text = resources.files("reticula.core.graph.structure").joinpath("graph.schema.json").read_text("utf-8")
    loaded: dict[str, Any] = json.loads(text)
    return loaded


@cache
def _validator() -> Any:
    import jsonschema

    return jsonschema.Draft202012Validator(schema())


VERSION = 1
"""Of the documents that are written; older ones are read, too."""


def empty_document(title: str = "Untitled") -> dict[str, Any]:
    """Return a valid document without nodes."""
    return {
        "format": "reticula graph",
        "version": VERSION,
        "title": title,
        "dials": {},
        "nodes": {},
        "looking_at": None,
    }


MOST_SEEN = 20_000
_seen: dict[bytes, None] = {}
"""Hashes of nodes, with their names, that fit the schema."""


def _not_seen(document: Any) -> tuple[Any, list[bytes]]:
    """Return the document without the nodes that are known to be valid, and the hashes of those that are left."""
    nodes = document.get("nodes") if isinstance(document, dict) else None
    if not isinstance(nodes, dict) or len(nodes) > 5000:
        return document, []
    left, marks = {}, []
    for name, node in nodes.items():
        try:
            mark = hashlib.blake2b(json.dumps([name, node], sort_keys=True).encode(), digest_size=16).digest()
        except (TypeError, ValueError):
            return document, []
        if mark not in _seen:
            left[name] = node
            marks.append(mark)
    return {**document, "nodes": left}, marks


def check_structure(document: Any) -> Document:
    """Return the document if it fits the schema; else raise GraphError that names node and place.

    Nodes that were found valid before are not looked at again: an edit changes few of them.
    """
    from jsonschema.exceptions import best_match

    check_depth(document)
    _check_version(document)
    fresh, marks = _not_seen(document)
    error = best_match(_validator().iter_errors(fresh))
    if error is None:
        check_links(document)
        for mark in marks:
            _seen[mark] = None
        while len(_seen) > MOST_SEEN:
            del _seen[next(iter(_seen))]
        checked: Document = document
        return checked
    path = [str(part) for part in error.absolute_path]
    node = path[1] if len(path) > 1 and path[0] == "nodes" else None
    parameter = path[3] if len(path) > 3 and path[2] == "parameters" else None
    place = f"at {' / '.join(path)}: " if path else ""
    message = error.message if len(error.message) < 300 else error.message[:300] + "…"
    raise GraphError(f"the graph document is not valid: {place}{message}", node=node, parameter=parameter)


def _check_version(document: Any) -> None:
    """Refuse what a newer release wrote, before anything else is found wrong with it."""
    version = document.get("version") if isinstance(document, dict) else None
    if type(version) is int and version > VERSION:
        raise GraphError(
            f"this graph was made by a newer release (its document has version {version}, this release reads up to "
            f"{VERSION}); open it with that release. It was not touched"
        )


def chosen_node(document: Document, node: str | None = None) -> str:
    """Return whose result is meant: ``node``, else the graph's result, else what it looks at, else its last node.

    Raises GraphError if there is no such node.
    """
    nodes = document["nodes"]
    chosen = node or document.get("result") or document.get("looking_at") or next(reversed(nodes), "")
    if not chosen:
        raise GraphError("the graph has no nodes")
    if split_feed(chosen)[0] not in nodes:
        raise GraphError(f"there is no node '{chosen}'; there are {', '.join(nodes)}")
    return str(chosen)


def split_feed(feed: str) -> tuple[str, str]:
    """Return the node and the output that ``node`` or ``node:output`` names; no output means the first one."""
    node, _, output = feed.partition(":")
    return node, output


def feeds_of(node: Mapping[str, Any]) -> list[str]:
    """Return the nodes that feed a node, in input order."""
    return [split_feed(feed)[0] for feeds in node.get("inputs", {}).values() for feed in feeds]


def order_of(
    document: Document,
    targets: Iterable[str] | None = None,
    feeds: Callable[[str], Sequence[str]] | None = None,
) -> list[str]:
    """Return nodes in an order in which each comes after those that feed it; only what ``targets`` need, if given.

    ``feeds`` says what a node needs, where that is less than all that feeds it. Nodes in a circle are left out.
    Depth-first, without recursion.
    """
    nodes = document["nodes"]
    done: dict[str, bool] = {}
    order: list[str] = []
    for target in targets if targets is not None else nodes:
        stack = [(split_feed(target)[0], False)]
        while stack:
            name, ready = stack.pop()
            if ready:
                done[name] = True
                order.append(name)
            elif name in nodes and name not in done:
                done[name] = False
                stack.append((name, True))
                needed = feeds_of(nodes[name]) if feeds is None else feeds(name)
                stack += [(feed, False) for feed in reversed(needed)]
    looped = set(circle_of(document))
    return [name for name in order if name not in looped]


def ancestors(document: Document, node: str) -> set[str]:
    """Return a node and all that feed it."""
    return set(order_of(document, [node]))


def circle_of(document: Document) -> list[str]:
    """Return the nodes of one circle of wires, first again at the end; empty if there is none."""
    nodes = document["nodes"]
    state: dict[str, int] = {}
    for start in nodes:
        path: list[str] = []
        stack = [(start, False)]
        while stack:
            name, leaving = stack.pop()
            if leaving:
                state[name] = 2
                path.pop()
                continue
            if state.get(name) == 1:
                return [*path[path.index(name) :], name]
            if state.get(name) == 2 or name not in nodes:
                continue
            state[name] = 1
            path.append(name)
            stack.append((name, True))
            stack += [(feed, False) for feed in feeds_of(nodes[name])]
    return []
