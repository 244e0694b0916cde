"""What a place is in generated code, and what it lies on."""

from __future__ import annotations

from reticula.core.geometry.mesh.geo import Geo
from reticula.core.language.questions.writer import QuestionWriter

__all__ = ["PLACE_WIDTH", "place_parts", "what_lies_on"]

PLACE_WIDTH = {"points": 2, "curves": 7, "faces": 8}
"""How many numbers a place is: what was hit, how far; on curves and faces weights and position."""


def what_lies_on(geo: Geo) -> str:
    """Return what the closest places on a geometry lie on: faces, else curves, else points."""
    if geo.topology.face_count:
        return "faces"
    return "curves" if len(geo.topology.curve_segments[0]) else "points"


def place_parts(emit: QuestionWriter, call: str, on: str) -> list[str]:
    """Write a call that gives what was hit and how far, and on curves and faces fills ``place``."""
    hit, far = emit.fresh("h"), emit.fresh("f")
    emit.out.add(f"{hit}, {far} = {call}")
    hit = emit.let(f"np.int64({hit})")
    parts = [hit, emit.let(f"{far} if {hit} >= 0 else -1.0")]
    if on == "points":
        return parts
    found = [emit.let(f"place[{k}] if {hit} >= 0 else 0.0") for k in range(6)]
    if on == "curves":
        found[1:3] = [emit.let(f"{found[1]} + {found[2]}")]
    return parts + found
