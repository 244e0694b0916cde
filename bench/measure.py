"""Timing two ways of doing the same, turn by turn, so that a drift of the machine's speed meets both."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from bench.targets import target_of

__all__ = ["Row", "alone", "compare", "table"]

Way = Callable[[], Any]
NO_PEER = "none known"


@dataclass
class Row:
    """One comparison: median seconds (or ``unit``) of ours and of the peer, and the median of the ratios turn by
    turn.
    """

    what: str
    size: str
    ours: float
    peer: str
    theirs: float | None = None
    ratio: float | None = None
    unit: str = "s"

    def show(self, value: float | None) -> str:
        """Return a value in words."""
        if value is None:
            return ""
        return f"{value * 1000:.1f} ms" if self.unit == "s" else f"{value:.1f} {self.unit}"


def compare(what: str, size: str, ours: Way, peer: str, theirs: Way, turns: int = 5) -> Row:
    """Time both ways in turn, now one first and now the other, after one warm-up each; returns medians."""
    ours()
    theirs()
    pairs = []
    for turn in range(turns):
        if turn % 2:
            after = _seconds(theirs)
            pairs.append((_seconds(ours), after))
        else:
            pairs.append((_seconds(ours), _seconds(theirs)))
    mine, other = zip(*pairs, strict=True)
    ratio = statistics.median(a / b for a, b in pairs)
    return Row(what, size, statistics.median(mine), peer, statistics.median(other), ratio)


def alone(what: str, size: str, ours: Way, turns: int = 3) -> Row:
    """Time what no common library does, for the growth with the size."""
    ours()
    return Row(what, size, statistics.median(_seconds(ours) for _ in range(turns)), NO_PEER)


def _seconds(way: Way) -> float:
    begin = time.perf_counter()
    way()
    return time.perf_counter() - begin


def table(rows: list[Row]) -> str:
    """Return the rows as a Markdown table.

    A ratio below 1 means that we are faster. Growth is our time over that of the row before, where both do the same.
    """
    lines = [
        "| what | size | ours | growth | peer | theirs | ours / theirs | target |",
        "|---|---|---|---|---|---|---|---|",
    ]
    before: Row | None = None
    for row in rows:
        growth = (
            f"x {row.ours / before.ours:.1f}" if before and (before.what, before.peer) == (row.what, row.peer) else ""
        )
        ratio = "" if row.ratio is None else f"{row.ratio:.2f}"
        lines.append(
            f"| {row.what} | {row.size} | {row.show(row.ours)} | {growth} | {row.peer} | "
            f"{row.show(row.theirs)} | {ratio} | {target_of(row.what) or ''} |"
        )
        before = row
    return "\n".join(lines)
