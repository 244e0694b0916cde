"""What is wrong with the result of every node, in numbers; each result is checked once."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from reticula.core.geometry.edit.placement import to_world
from reticula.core.geometry.validation.checks import find_defects
from reticula.core.graph import Evaluation

__all__ = ["CheckCounts"]

MOST_CORNERS = 200_000
"""Larger results are checked when that is asked for, by the panel of checks."""
KEPT = 500


class CheckCounts:
    """Counts by what names a result, so that an edit checks only the nodes whose results it changed."""

    def __init__(self) -> None:
        self.known: dict[str, list[dict[str, Any]]] = {}

    def of(self, done: Evaluation, should_stop: Callable[[], bool]) -> dict[str, dict[str, Any]]:
        """Return per node that is done: its ``key``, whether it was ``skipped``, and what was ``found``."""
        nodes: dict[str, dict[str, Any]] = {}
        for name, result in done.nodes.items():
            if result.state != "done" or result.geo is None or should_stop():
                continue
            large = result.geo.topology.corner_count > MOST_CORNERS and result.key not in self.known
            if not large and result.key not in self.known:
                while len(self.known) >= KEPT:
                    del self.known[next(iter(self.known))]
                self.known[result.key] = [
                    {"name": one.name, "kind": one.kind, "count": len(one.elements), "help": one.help}
                    for one in find_defects(to_world(result.geo))
                ]
            nodes[name] = {"key": result.key, "skipped": large, "found": self.known.get(result.key, [])}
        return nodes
