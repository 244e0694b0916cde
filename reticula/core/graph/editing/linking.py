"""Linked copies: several nodes that run one graph, edited once and changed everywhere; told apart by their dials."""

from __future__ import annotations

from copy import deepcopy
from typing import Any

from reticula.core.errors import GraphError
from reticula.core.graph.editing.formula_texts import free_name, slug
from reticula.core.graph.editing.levels import level_of

__all__ = ["link_copy", "separate"]

ASIDE = 40.0
"""How far beside its original a copy is put, in pixels of the board."""


def link_copy(document: dict[str, Any], path: str, node: str) -> tuple[dict[str, Any], str]:
    """Return the document with another node that runs the graph of ``node``, and its name; both are linked then.

    The copy takes its values of dials and its inputs over; its values are its own from then on. The document is an
    attached one (:mod:`reticula.core.graph.structure.linked`), which keeps the graph once as soon as it is detached.
    """
    made = deepcopy(document)
    level = level_of(made, path)
    entry = _holder(level, node)
    if "linked" not in entry:
        linked = made.setdefault("linked", {})
        entry["linked"] = free_name(slug(entry.get("title", ""), entry["operator"]), set(linked))
        linked[entry["linked"]] = {}
    copy = {key: value if key == "graph" else deepcopy(value) for key, value in entry.items()}
    if copy.get("place"):
        copy["place"] = [part + ASIDE for part in copy["place"]]
    name = free_name(node, set(level["nodes"]))
    nodes: dict[str, Any] = {}
    for key, value in level["nodes"].items():
        nodes[key] = value
        if key == node:
            nodes[name] = copy
    level["nodes"] = nodes
    return made, name


def separate(document: dict[str, Any], path: str, node: str) -> dict[str, Any]:
    """Return the document with a graph of its own in a node that was linked."""
    made = deepcopy(document)
    entry = _holder(level_of(made, path), node)
    if "linked" not in entry:
        raise GraphError("this card is not linked to another one", node=node)
    del entry["linked"]
    entry["graph"] = deepcopy(entry["graph"])
    return made


def _holder(level: dict[str, Any], node: str) -> dict[str, Any]:
    entry: dict[str, Any] | None = level["nodes"].get(node)
    if entry is None or "graph" not in entry:
        raise GraphError("only a card that holds a graph can be linked; fold the cards first", node=node)
    return entry
