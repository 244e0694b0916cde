"""Linked graphs: a document keeps a graph that several of its nodes run once, under ``linked``, and they name it.

``attached`` puts the graphs into the nodes that name them, one and the same object into each, and ``detached`` takes
them out again: what edits a document works on nodes that hold their graph. ``resolved`` is for what only reads it.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from reticula.core.errors import GraphError

__all__ = ["attached", "check_links", "detached", "holders_of", "resolved"]

Graph = dict[str, Any]
MOST_NODES = 20_000
"""That a document may come to with all copies counted."""


def attached(document: Mapping[str, Any]) -> Graph:
    """Return a document whose nodes hold the linked graphs that they name; the document is not changed.

    Raises GraphError for a link that leads nowhere or into itself.
    """
    return _filled(document, lambda node, graph: {**node, "graph": graph})


def resolved(document: Mapping[str, Any]) -> Mapping[str, Any]:
    """Return a document without links: each node holds its graph. Raises GraphError as :func:`attached` does."""
    if not document.get("linked"):
        return document
    made = _filled(document, lambda node, graph: {**{k: v for k, v in node.items() if k != "linked"}, "graph": graph})
    del made["linked"]
    return made


def _filled(document: Mapping[str, Any], fill: Callable[[Mapping[str, Any], Graph], Graph]) -> Graph:
    linked: Mapping[str, Any] = document.get("linked") or {}
    made: dict[str, Graph] = {}

    def graph_named(name: str, way: tuple[str, ...]) -> Graph:
        _check_name(name, linked, way)
        if name not in made:
            made[name] = with_nodes(linked[name], (*way, name))
        return made[name]

    def with_nodes(graph: Mapping[str, Any], way: tuple[str, ...]) -> Graph:
        return {**graph, "nodes": {name: node_with(node, way) for name, node in graph["nodes"].items()}}

    def node_with(node: Mapping[str, Any], way: tuple[str, ...]) -> Mapping[str, Any]:
        if "graph" in node:
            return {**node, "graph": with_nodes(node["graph"], way)}
        return fill(node, graph_named(node["linked"], way)) if "linked" in node else node

    return with_nodes(document, ()) if linked else dict(document)


def detached(document: Graph) -> Graph:
    """Return a document as it is kept: nodes name their linked graphs, which stand once under ``linked``.

    A node whose graph was changed changes it for all that name it. What nobody names any more goes, and what names
    nothing keeps its own graph. Raises GraphError if two copies were changed, each in its own way.
    """
    before: Mapping[str, Any] = document.get("linked") or {}
    changed: dict[str, Graph] = {}
    seen: dict[int, Graph] = {}

    def plain(graph: Graph) -> Graph:
        if id(graph) not in seen:
            seen[id(graph)] = {**graph, "nodes": {name: plain_node(node) for name, node in graph["nodes"].items()}}
        return seen[id(graph)]

    def plain_node(node: Graph) -> Graph:
        if "graph" not in node:
            return node
        own, link = plain(node["graph"]), node.get("linked")
        rest = {key: value for key, value in node.items() if key not in ("graph", "linked")}
        if link is None or link not in before:
            return {**rest, "graph": own}
        if own != before[link] and changed.setdefault(link, own) != own:
            raise GraphError(f"copies that are linked as '{link}' were changed in two ways; change one of them")
        return {**rest, "linked": link}

    made = plain(document)
    kept = _reached(made, {**before, **changed})
    made.pop("linked", None)
    return {**made, "linked": kept} if kept else made


def _reached(document: Graph, linked: Mapping[str, Any]) -> dict[str, Any]:
    """The linked graphs that are named, in the document or in one that is."""
    found: dict[str, Any] = {}
    open_ = [document]
    while open_:
        for node in open_.pop()["nodes"].values():
            name = node.get("linked")
            if name is not None and name not in found:
                found[name] = linked[name]
                open_.append(linked[name])
            if "graph" in node:
                open_.append(node["graph"])
    return {name: found[name] for name in linked if name in found}


def holders_of(document: Graph, graph: Graph) -> list[tuple[Graph, str]]:
    """Return the nodes of an attached document that hold a graph (the very object), with the graph each is in."""
    found, open_, seen = [], [document], {id(document)}
    while open_:
        level = open_.pop()
        for name, node in level["nodes"].items():
            held = node.get("graph")
            if held is graph:
                found.append((level, name))
            if held is not None and id(held) not in seen:
                seen.add(id(held))
                open_.append(held)
    return found


def check_links(document: Mapping[str, Any]) -> None:
    """Raise GraphError for a link that leads nowhere or in a circle, for graphs that are linked inside of others, and
    for a document that comes to too many nodes with all copies counted.
    """
    linked: Mapping[str, Any] = document.get("linked") or {}
    sizes: dict[str, int] = {}

    def size_of(graph: Mapping[str, Any], way: tuple[str, ...]) -> int:
        total = len(graph["nodes"])
        for name, node in graph["nodes"].items():
            if "graph" in node:
                if "linked" in node["graph"]:
                    raise GraphError("linked graphs belong to the outermost graph", node=name)
                total += size_of(node["graph"], way)
            elif "linked" in node:
                total += named(node["linked"], way)
        return total

    def named(name: str, way: tuple[str, ...]) -> int:
        _check_name(name, linked, way)
        if name not in sizes:
            sizes[name] = size_of(linked[name], (*way, name))
        return sizes[name]

    total = max([size_of(document, ()), *(named(name, ()) for name in linked)])
    if total > MOST_NODES:
        raise GraphError(f"with all linked copies the graph would have {total:,} nodes; {MOST_NODES:,} are the most")


def _check_name(name: str, linked: Mapping[str, Any], way: tuple[str, ...]) -> None:
    if name in way:
        raise GraphError(f"the linked graph '{name}' holds itself: {' → '.join((*way, name))}")
    if name not in linked:
        raise GraphError(f"there is no linked graph '{name}'; there is {', '.join(linked) or 'none'}")
