"""Levels of a document: the graph itself, and the graphs inside its nodes, by path."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from reticula.core.errors import GraphError
from reticula.core.graph.nesting.graph_operator import HOLDERS, STARTING

__all__ = ["inner_level", "level_of", "parent_of", "steps_of"]


def steps_of(path: str) -> list[str]:
    """Return the nodes that a path such as ``tile/rings@3`` goes through; which round is looked at does not matter."""
    return [step.partition("@")[0] for step in path.split("/") if step]


def level_of(document: dict[str, Any], path: str) -> dict[str, Any]:
    """Return the graph at the end of a path (not a copy); raise GraphError if there is none."""
    level = document
    for step in steps_of(path):
        node = level["nodes"].get(step)
        if node is None:
            raise GraphError(f"there is no node '{step}' to go into")
        if "graph" not in node:
            raise GraphError(f"'{step}' holds no graph that can be changed", node=step)
        level = node["graph"]
    return level


def inner_level(document: dict[str, Any], path: str, definitions: Mapping[str, Any]) -> dict[str, Any]:
    """Return the graph at the end of a path to look at, also inside of published operators; raise GraphError if there
    is none.
    """
    level = document
    for step in steps_of(path):
        node = level["nodes"].get(step)
        if node is None:
            raise GraphError(f"there is no node '{step}' to look into")
        level = node.get("graph") or definitions.get(node["operator"], {}).get("graph")
        if level is None and node["operator"] in HOLDERS:
            level = STARTING
        if level is None:
            raise GraphError(f"'{step}' holds no graph to look into", node=step)
    return level


def parent_of(document: dict[str, Any], path: str) -> tuple[dict[str, Any], str] | None:
    """Return the graph around the one at the end of a path, and the node that holds it; None for the outermost."""
    steps = steps_of(path)
    return (level_of(document, "/".join(steps[:-1])), steps[-1]) if steps else None
