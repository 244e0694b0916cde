"""What becomes of nodes when a graph is evaluated."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any, Literal

from reticula.core.context import KeyedGeo
from reticula.core.diagnostics import Note
from reticula.core.errors import GraphError
from reticula.core.geometry import Geo
from reticula.core.graph.structure.document import split_feed

__all__ = ["Evaluation", "NodeResult", "State"]

State = Literal["done", "failed", "waiting", "idle"]
"""``idle``: nothing of it is needed."""


@dataclass
class NodeResult:
    """What became of one node. ``key`` names the result for as long as its content is the same; ``parts`` are the
    seconds by what they went into.
    """

    node: str
    state: State
    key: str = ""
    outputs: dict[str, Geo] = field(default_factory=dict)
    notes: tuple[Note, ...] = ()
    seconds: float = 0.0
    parts: Mapping[str, float] = field(default_factory=dict)
    cached: bool = False
    skipped: bool = False
    error: dict[str, Any] | None = None

    @property
    def geo(self) -> Geo | None:
        """The geometry of the first output, if there is one."""
        return next(iter(self.outputs.values()), None)


@dataclass
class Evaluation:
    """The results of all nodes that were asked for, by node; ``document``, ``dials`` and ``moment`` (what formulas read
    of time) are those of their level.
    """

    nodes: dict[str, NodeResult] = field(default_factory=dict)
    document: Mapping[str, Any] = field(default_factory=dict)
    dials: Mapping[str, Any] = field(default_factory=dict)
    moment: Mapping[str, float] | None = None
    plan: Any = None
    """The plan of the level that was evaluated."""

    def geo(self, feed: str) -> Geo:
        """Return the geometry of ``node`` or ``node:output``; raise GraphError that says why there is none."""
        return self.part(feed).geo

    def has(self, feed: str) -> bool:
        """Whether there is a geometry of ``node`` or ``node:output``."""
        found = self.nodes.get(split_feed(feed)[0])
        return found is not None and found.state == "done" and found.geo is not None

    def part(self, feed: str) -> KeyedGeo:
        """Return the geometry of ``node`` or ``node:output`` with what names its content; raise GraphError."""
        node, output = split_feed(feed)
        result = self.nodes.get(node)
        if result is None:
            raise GraphError(f"the node '{node}' was not evaluated", node=node)
        if result.geo is None:
            error = result.error or {}
            raise GraphError(
                f"node '{node}': {error.get('message', 'failed')}", node=node, parameter=error.get("parameter")
            )
        if output and output not in result.outputs:
            raise GraphError(f"node '{node}' has no output '{output}', but {', '.join(result.outputs)}", node=node)
        return KeyedGeo(result.outputs[output] if output else result.geo, self.key(feed))

    def key(self, feed: str) -> str:
        """Return what names the content of ``node`` or ``node:output``."""
        node, output = split_feed(feed)
        result = self.nodes[node]
        first = not output or output == next(iter(result.outputs), "")
        return result.key if first else f"{result.key}:{output}"

    def failing(self, feed: str) -> NodeResult:
        """Return the node that keeps ``feed`` from having a result."""
        result = self.nodes[split_feed(feed)[0]]
        while result.state == "waiting" and result.error and result.error["cause"] in self.nodes:
            result = self.nodes[result.error["cause"]]
        return result
