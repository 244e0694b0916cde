"""Timing two ways of doing the same, turn by turn, so that a drift of the machine's speed meets both."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

__all__ = ["Row", "compare", "table"]

Way = Callable[[], Any]


@dataclass
class Row:
    """One comparison: median seconds of ours and of the peer, and the median of the ratios turn by turn."""

    what: str
    size: str
    ours: float
    peer: str
    theirs: float
    ratio: float


def compare(what: str, size: str, ours: Way, peer: str, theirs: Way, turns: int = 5) -> Row:
    """Time both ways in turn after one warm-up each; returns medians."""
    ours()
    theirs()
    pairs = [(_seconds(ours), _seconds(theirs)) for _ in range(turns)]
    mine, other = zip(*pairs, strict=True)
    ratio = statistics.median(a / b for a, b in pairs)
    return Row(what, size, statistics.median(mine), peer, statistics.median(other), ratio)


def _seconds(way: Way) -> float:
    begin = time.perf_counter()
    way()
    return time.perf_counter() - begin


def table(rows: list[Row]) -> str:
    """Return the rows as a Markdown table; a ratio below 1 means that we are faster."""
    lines = ["| what | size | ours | peer | theirs | ours / theirs |", "|---|---|---|---|---|---|"]
    lines += [
        f"| {row.what} | {row.size} | {row.ours * 1000:.1f} ms | {row.peer} | {row.theirs * 1000:.1f} ms | {row.ratio:.2f} |"
        for row in rows
    ]
    return "\n".join(lines)
