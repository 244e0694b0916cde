"""The frames of a graph: the first and the last one, and how many make a second."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from reticula.core.errors import GraphError
from reticula.core.language.scope import TIMELINE

__all__ = ["FARTHEST", "MOST_FRAMES", "Timeline", "checked_frame", "timeline_of"]

MOST_FRAMES = 100_000
FARTHEST = 1e7
"""Frames are within this distance of 0."""


@dataclass(frozen=True)
class Timeline:
    """``first`` and ``last`` frame, both played, and ``rate`` in frames per second.

    A graph that says nothing begins at frame 0 and time 0, with as many frames a second as formulas read outside of
    graphs.
    """

    first: int = 0
    last: int = 47
    rate: float = 1.0 / TIMELINE["seconds_per_frame"]

    @property
    def count(self) -> int:
        """How many frames there are."""
        return self.last - self.first + 1

    def names(self, frame: float) -> dict[str, float]:
        """Return what formulas read at a frame; frames between two whole ones exist, too."""
        return {"frame": float(frame), "time": (frame - self.first) / self.rate, "seconds_per_frame": 1.0 / self.rate}


def checked_frame(frame: Any) -> float:
    """Return the number of a frame; raise GraphError for what is none."""
    if isinstance(frame, bool) or not isinstance(frame, (int, float)) or not abs(frame) <= FARTHEST:
        raise GraphError(f"a frame is a number up to {FARTHEST:,.0f}, not {frame!r}")
    return float(frame)


def timeline_of(document: Mapping[str, Any]) -> Timeline:
    """Return the frames of a document; raise GraphError where they cannot be."""
    given = document.get("time")
    if not given:
        return Timeline()
    made = Timeline(int(given["first"]), int(given["last"]), float(given["rate"]))
    if made.last < made.first:
        raise GraphError(f"the last frame, {made.last}, comes before the first one, {made.first}; change one of them")
    if made.count > MOST_FRAMES:
        raise GraphError(
            f"{made.count:,} frames are too many; take at most {MOST_FRAMES:,}, or fewer frames per second"
        )
    return made
