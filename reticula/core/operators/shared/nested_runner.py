"""What an operator that holds a graph knows of it: how to run it, and what came in.

The graph layer provides it around each run; the operators here only say how often the graph runs, and on what.
"""

from __future__ import annotations

import contextlib
from collections.abc import Iterator, Mapping
from contextvars import ContextVar
from dataclasses import dataclass
from typing import Any, Protocol

from reticula.core.errors import GeometryError
from reticula.core.geometry import Geo

__all__ = ["LOOP_NAMES", "KeyedGeo", "NestedGraph", "nested_graph", "using_nested_graph"]

LOOP_NAMES = {
    "iteration": "number of this round, from 0",
    "iterations": "how many rounds there are",
    "part": "number of this part, from 0",
    "parts": "how many parts there are",
    "part_value": "the value that all elements of this part have",
}
"""What formulas inside a loop may read."""


@dataclass(frozen=True)
class KeyedGeo:
    """A geometry and what names its content: equal keys mean equal geometries."""

    geo: Geo
    key: str


class NestedGraph(Protocol):
    """The graph that a node holds. ``given`` is what came in at the node, by input; ``outputs`` names what it makes."""

    given: Mapping[str, KeyedGeo]
    outputs: tuple[str, ...]

    def run(self, given: Mapping[str, KeyedGeo], names: Mapping[str, Any]) -> dict[str, KeyedGeo]:
        """Run the graph once on ``given``; its formulas may read ``names``. Returns a part per output."""
        ...


_current: ContextVar[NestedGraph | None] = ContextVar("inside", default=None)


def nested_graph() -> NestedGraph:
    """Return the graph of the node that is being run; raise GeometryError if there is none."""
    found = _current.get()
    if found is None:
        raise GeometryError("this operator runs a graph of its own, so it can only be used in a graph")
    return found


@contextlib.contextmanager
def using_nested_graph(chosen: NestedGraph) -> Iterator[None]:
    """Provide ``chosen`` to the operator that runs in the block."""
    token = _current.set(chosen)
    try:
        yield
    finally:
        _current.reset(token)
