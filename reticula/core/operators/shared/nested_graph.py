"""The graph that an operator holds, as that operator knows it.

The graph layer provides it around each run; operators here only say how often the graph runs, and on what.
"""

from __future__ import annotations

from reticula.core.context import NestedGraph, current
from reticula.core.errors import GeometryError

__all__ = ["LOOP_NAMES", "names_given", "nested_graph"]

LOOP_NAMES = {
    "iteration": "number of this round, from 0",
    "iterations": "how many rounds there are",
    "part": "number of this part, from 0",
    "parts": "how many parts there are",
    "part_value": "the value that all elements of this part have",
}
"""What formulas inside a loop may read."""
STATE_NAMES = {
    "step": "how often the state was made before this, from 0",
    "age": "seconds since the state began, at the end of this step",
    "seconds_per_step": "seconds from one state to the next",
}
"""What formulas inside a graph that evolves may read, besides."""


def names_given(holder: str) -> dict[str, str]:
    """Return what formulas directly inside of the graph of an operator may read, with what it means."""
    return LOOP_NAMES | STATE_NAMES if holder == "evolve" else LOOP_NAMES


def nested_graph() -> NestedGraph:
    """Return the graph of the node that is being run; raise GeometryError if there is none."""
    found = current().nested_graph
    if found is None:
        raise GeometryError("this operator runs a graph of its own, so it can only be used in a graph")
    return found
