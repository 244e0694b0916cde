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

__all__ = ["NAMES", "Inside", "Part", "inside", "running_inside"]

NAMES = {
    "iteration": "number of this round, from 0",
    "iterations": "how many rounds there are",
    "part": "number of this part, from 0",
    "parts": "how many parts there are",
    "part_value": "the value that all elements of this part have",
}
"""What formulas inside a loop may read."""


@dataclass(frozen=True)
class Part:
    """A geometry and what names its content: equal keys mean equal geometries."""

    geo: Geo
    key: str


class Inside(Protocol):
    """The graph that a node holds. ``given`` is what came in at the node, by input; ``outputs`` names what it makes."""

    given: Mapping[str, Part]
    outputs: tuple[str, ...]

    def run(self, given: Mapping[str, Part], names: Mapping[str, Any]) -> dict[str, Part]:
        """Run the graph once on ``given``; its formulas may read ``names``. Returns a part per output."""
        ...


_current: ContextVar[Inside | None] = ContextVar("inside", default=None)


def inside() -> Inside:
    """Return the graph of the node that is being run; raise GeometryError if there is none."""
    found = _current.get()
    if found is None:
        raise GeometryError("this operator runs a graph of its own, so it can only be used in a graph")
    return found


@contextlib.contextmanager
def running_inside(chosen: Inside) -> Iterator[None]:
    """Provide ``chosen`` to the operator that runs in the block."""
    token = _current.set(chosen)
    try:
        yield
    finally:
        _current.reset(token)
