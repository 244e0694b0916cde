"""What can be demanded of a geometry: of what comes in at an operator, and of what comes out of it."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import numpy as np

from reticula.core.errors import FormulaError
from reticula.core.geometry import Geo
from reticula.core.geometry.measure.areas import face_areas
from reticula.core.geometry.mesh.kinds import Kind
from reticula.core.language import evaluate

__all__ = ["BROKEN_PROMISE", "CONDITIONS", "condition_text", "unmet"]

BROKEN_PROMISE = "What this operator promises does not hold"
"""What the warning of a condition that is not met begins with."""

Condition = Mapping[str, Any]
CONDITIONS = {
    "closed": "it has no open border",
    "triangles": "all faces are triangles",
    "quads": "all faces have four sides",
    "attribute": "it has an attribute or group",
    "one piece": "all hangs together",
    "least area": "no face is smaller than a value in m²",
    "keeps points": "every point of an input is still where it was",
    "formula": "a formula on the whole holds",
}


def condition_text(condition: Condition) -> str:
    """Say a condition in words."""
    what = condition["what"]
    if what == "attribute":
        return f"has the {condition.get('kind', 'point')} attribute '{condition.get('name', '')}'"
    if what == "least area":
        return f"no face is smaller than {condition.get('value', 0):g} m²"
    if what == "keeps points":
        return f"keeps the points of '{condition.get('input', 'geo')}'"
    return (
        str(condition.get("formula", "")) if what == "formula" else {"closed": "is closed"}.get(what, CONDITIONS[what])
    )


def unmet(condition: Condition, geo: Geo, inputs: Mapping[str, Geo | None] | None = None) -> str | None:
    """Return in words how a geometry fails a condition, and what mends it; None if it does not."""
    shape = geo.topology
    sizes = np.diff(shape.face_start)
    match condition["what"]:
        case "closed":
            count = int(shape.border_edges.sum())
            return f"it has {count:,} open border edges; fill closes them" if count else None
        case "triangles" | "quads" as wanted:
            sides = 3 if wanted == "triangles" else 4
            count = int((sizes != sides).sum())
            mend = "; triangulate makes triangles" if sides == 3 else ""
            return f"{count:,} of {len(sizes):,} faces have not {sides} sides{mend}" if count else None
        case "attribute":
            kind: Kind = condition.get("kind", "point")
            name = condition.get("name", "")
            there = ", ".join(sorted(geo.attributes[kind])) or "none"
            return None if geo.has(kind, name) else f"there is no {kind} attribute '{name}'; there are {there}"
        case "one piece":
            count = int(shape.point_piece.max(initial=-1)) + 1
            return f"it has {count:,} pieces" if count > 1 else None
        case "least area":
            areas, least = face_areas(geo), float(condition.get("value", 0.0))
            small = np.flatnonzero(areas < least)
            return (
                f"{len(small):,} faces are smaller than {least:g} m² (first: face {small[0]})" if len(small) else None
            )
        case "keeps points":
            source = (inputs or {}).get(condition.get("input", "geo"))
            count = 0 if source is None else _lost(source, geo)
            return f"{count:,} points of '{condition.get('input', 'geo')}' are not where they were" if count else None
        case "formula":
            source_text = str(condition.get("formula", ""))
            try:
                holds = bool(
                    evaluate(source_text, geo, "whole", "flag", inputs={**(inputs or {}), "geo": geo}).array[0]
                )
            except FormulaError as error:
                return f"'{source_text}' cannot be worked out: {error.plain}"
            return None if holds else f"'{source_text}' does not hold"
    return f"'{condition['what']}' is not a condition; there are {', '.join(CONDITIONS)}"


def _lost(source: Geo, geo: Geo) -> int:
    """Return how many places of the source's points no point of ``geo`` has."""
    wanted = np.unique(source.positions + 0.0, axis=0)
    both = np.concatenate([np.unique(geo.positions + 0.0, axis=0), wanted])
    return int(len(np.unique(both, axis=0)) - (len(both) - len(wanted)))
