"""Small helpers to write graph documents by hand."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

__all__ = ["dial", "document", "node", "write"]

HERE = Path(__file__).parent


def node(
    operator: str, title: str, *feeds: str, inputs: dict[str, list[str]] | None = None, **parameters: Any
) -> dict[str, Any]:
    """Return a node; ``feeds`` go into the input ``geo``, ``inputs`` into others."""
    made: dict[str, Any] = {"operator": operator, "title": title, "parameters": parameters}
    wired = ({"geo": list(feeds)} if feeds else {}) | (inputs or {})
    return made | ({"inputs": wired} if wired else {})


def dial(value: float, soft: tuple[float, float], help: str, unit: str = "", step: float = 0.001) -> dict[str, Any]:
    """Return a number that formulas of the graph read by name."""
    return {
        "type": "number",
        "value": value,
        "soft": list(soft),
        "low": 0.0,
        "high": soft[1] * 10,
        "step": step,
        "unit": unit,
        "help": help,
    }


def document(title: str, notes: str, nodes: dict[str, Any], dials: dict[str, Any], result: str) -> dict[str, Any]:
    """Return a graph document that looks at its result."""
    return {
        "format": "reticula graph",
        "version": 1,
        "title": title,
        "notes": notes,
        "dials": dials,
        "nodes": nodes,
        "looking_at": result,
        "result": result,
    }


def write(name: str, made: dict[str, Any]) -> None:
    """Write a document beside this file."""
    (HERE / f"{name}.json").write_text(json.dumps(made, indent=2, ensure_ascii=False) + "\n")
