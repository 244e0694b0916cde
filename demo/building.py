"""Small helpers to write graph documents by hand."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

__all__ = ["dial", "document", "ink", "keys", "node", "stamps", "write"]

HERE = Path(__file__).parent


def node(
    operator: str, title: str, *feeds: str, inputs: dict[str, list[str]] | None = None, **parameters: Any
) -> dict[str, Any]:
    """Return a node; ``feeds`` go into the input ``geo``, ``inputs`` into others."""
    made: dict[str, Any] = {"operator": operator, "title": title, "parameters": parameters}
    wired = ({"geo": list(feeds)} if feeds else {}) | (inputs or {})
    return made | ({"inputs": wired} if wired else {})


def stamps(count: int, spots: str, size: float) -> dict[str, Any]:
    """Return nodes that make solid numbers from 1 on at the points of ``spots``; the last one is called ``stamp``."""
    digits = {
        f"digit_{n}": node("lettering", f"Number {n}", text=str(n), size=size, weight=700) for n in range(1, count + 1)
    }
    return digits | {
        "numbers": node("place_instances", "Numbers", spots, inputs={"shapes": list(digits)}, turn="not"),
        "outlines": node("flatten_instances", "Outlines", "numbers"),
        "faces": node("fill", "Faces", "outlines", what="curve", using="triangles"),
        "stamp": node("extrude", "Stamps", "faces", distance=0.03, keep_base=True),
    }


def ink(feed: str, color: list[float]) -> dict[str, Any]:
    """Return a node that colours what is engraved."""
    return node("set_attribute", "Ink", feed, kind="face", name="color", where="engraved", value=color)


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


def keys(*at: tuple[float, Any], way: str = "smooth") -> dict[str, Any]:
    """Return a value with keys, given as frame and value."""
    return {"keys": [{"frame": frame, "value": value, "way": way} for frame, value in at]}


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
