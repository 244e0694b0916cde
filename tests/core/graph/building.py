"""Short ways to write documents down in tests."""

from __future__ import annotations

from typing import Any

__all__ = ["graph", "node"]


def node(
    operator: str,
    *feeds: str,
    graph: dict[str, Any] | None = None,
    inputs: dict[str, list[str]] | None = None,
    **parameters: Any,
) -> dict[str, Any]:
    """A node; ``feeds`` go into its input ``geo``."""
    made: dict[str, Any] = {"operator": operator, "parameters": parameters}
    if feeds or inputs:
        made["inputs"] = {**({"geo": list(feeds)} if feeds else {}), **(inputs or {})}
    if graph is not None:
        made["graph"] = graph
    return made


def graph(
    nodes: dict[str, Any],
    *,
    inputs: tuple[str, ...] = (),
    outputs: dict[str, str] | None = None,
    dials: dict[str, Any] | None = None,
    **more: Any,
) -> dict[str, Any]:
    """A document. ``inputs`` get an input node of their name each; ``outputs`` maps names to feeds."""
    entries = {name: node("input", name=name) for name in inputs}
    made: dict[str, Any] = {
        "format": "reticula graph",
        "version": 1,
        "title": "",
        "dials": dials or {},
        "nodes": {**entries, **nodes},
    }
    if inputs:
        made["inputs"] = [{"name": name} for name in inputs]
    if outputs:
        made["outputs"] = [{"name": name, "feed": feed} for name, feed in outputs.items()]
    return made | more
