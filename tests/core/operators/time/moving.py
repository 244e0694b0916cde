"""Graphs that move, and one of their nodes at a frame."""

from __future__ import annotations

from typing import Any

from reticula.core.geometry import Geo
from reticula.core.graph.evaluation.evaluator import run_graph
from tests.core.graph.building import graph, node

__all__ = ["at", "moved", "velocity_of"]

TIME = {"first": 0, "last": 48, "rate": 10}


def moved(by: str, **last: Any) -> dict[str, Any]:
    """A sheet of three squares whose points are moved by a formula, and the node ``last`` after it."""
    nodes = {
        "square": node("grid", cells=[3, 1], size=[2, 2]),
        "moved": node("script", "square", source=f"here.position = position + {by}"),
        **last,
    }
    return graph(nodes, time=TIME)


def at(document: dict[str, Any], frame: float, of: str = "last") -> Geo:
    return run_graph(document, node=of, frame=frame)


def velocity_of(geo: Geo) -> Any:
    """The velocity of each point ``(N, 3)``."""
    name = "velocity"
    return geo.attribute("point", name)
