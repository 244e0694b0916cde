"""What is wrong with the result of every node, in numbers; each result is checked once."""

from __future__ import annotations

from collections.abc import Callable
from contextlib import suppress
from typing import Any

from reticula.core.errors import GraphError
from reticula.core.geometry import Geo
from reticula.core.geometry.edit.placement import to_world
from reticula.core.geometry.validation.checks import Finding, find_defects
from reticula.core.graph import Evaluation
from reticula.core.graph.inspection.expected_findings import unexpected

__all__ = ["CheckCounts"]

MOST_CORNERS = 200_000
"""Larger results are checked when that is asked for, by the panel of checks."""
KEPT = 500


class CheckCounts:
    """Findings by what names a result, so that an edit checks only the nodes whose results it changed."""

    def __init__(self) -> None:
        self.known: dict[str, list[Finding]] = {}

    def of(self, done: Evaluation, should_stop: Callable[[], bool]) -> dict[str, dict[str, Any]]:
        """Return per node that is done: its ``key``, whether it was ``skipped``, and what was ``found``; what is
        ``expected`` there by what came in and by what the operator does is marked.
        """
        nodes: dict[str, dict[str, Any]] = {}
        for name, result in done.nodes.items():
            if result.state != "done" or result.geo is None or should_stop():
                continue
            found = self._found(result.key, result.geo)
            strange = self._unexpected(done, name, result.geo, found or [])
            nodes[name] = {
                "key": result.key,
                "skipped": found is None,
                "found": [
                    {
                        "name": one.name,
                        "kind": one.kind,
                        "count": len(one.elements),
                        "help": one.help,
                        "expected": one.name not in strange,
                    }
                    for one in found or []
                ],
            }
        return nodes

    def _found(self, key: str, geo: Geo) -> list[Finding] | None:
        """Return what is found; None if that is not known and the geometry is large."""
        if key not in self.known:
            if geo.topology.corner_count > MOST_CORNERS:
                return None
            while len(self.known) >= KEPT:
                del self.known[next(iter(self.known))]
            self.known[key] = find_defects(to_world(geo))
        return self.known[key]

    def _unexpected(self, done: Evaluation, name: str, geo: Geo, found: list[Finding]) -> set[str]:
        """Return the names of what is not expected; nothing where what came in is too large to be known."""
        node = done.document["nodes"][name]
        given = {}
        for feed in {feed for feeds in node.get("inputs", {}).values() for feed in feeds}:
            with suppress(GraphError):
                part = done.part(feed)
                came = self._found(part.key, part.geo)
                if came is None:
                    return set()
                given[part.geo] = came
        return unexpected(found, geo, given, node) if found else set()
