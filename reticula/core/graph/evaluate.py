"""Evaluation: runs a graph's nodes in order, re-running only what changed since it was last seen."""

from __future__ import annotations

import hashlib
import json
import time
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any, Literal

from reticula.core.errors import GeometryError, GraphError, ReticulaError, Stopped
from reticula.core.geometry import Geo
from reticula.core.graph.cache import Cache, Entry
from reticula.core.graph.document import (
    Document,
    Problem,
    check_structure,
    dial_values,
    feeds_of,
    operator_of,
    order_of,
    problems_of,
    split_feed,
)
from reticula.core.graph.ties import Ties
from reticula.core.graph.wiring import chain_text, written_out
from reticula.core.notes import Note, collecting
from reticula.core.operators import Operator
from reticula.core.operators.parameters import Shape
from reticula.core.operators.resources import Resources, resources, using_resources
from reticula.core.stopping import stopping

__all__ = ["Evaluation", "Evaluator", "NodeResult", "run_graph"]

State = Literal["done", "failed", "waiting"]


@dataclass
class NodeResult:
    """What became of one node. ``key`` names the result for as long as its content is the same."""

    node: str
    state: State
    key: str = ""
    outputs: dict[str, Geo] = field(default_factory=dict)
    notes: tuple[Note, ...] = ()
    seconds: float = 0.0
    cached: bool = False
    skipped: bool = False
    error: dict[str, Any] | None = None

    @property
    def geo(self) -> Geo | None:
        """The geometry of the first output, if there is one."""
        return next(iter(self.outputs.values()), None)


@dataclass
class Evaluation:
    """The results of all nodes that were asked for, by node."""

    nodes: dict[str, NodeResult] = field(default_factory=dict)

    def geo(self, feed: str) -> Geo:
        """Return the geometry of ``node`` or ``node:output``; raise GraphError that says why there is none."""
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
        return result.outputs[output] if output else result.geo


class Evaluator:
    """Evaluates documents one after the other with a common cache. Not for use by two threads at once."""

    def __init__(self, cache: Cache | None = None) -> None:
        self.cache = cache or Cache()
        self.nodes: Mapping[str, Any] = {}

    def evaluate(
        self,
        document: Document,
        *,
        dials: Mapping[str, Any] | None = None,
        targets: list[str] | None = None,
        shapes: Resources | None = None,
        on_progress: Callable[[int, int, str], None] | None = None,
        should_stop: Callable[[], bool] | None = None,
    ) -> Evaluation:
        """Evaluate ``targets`` and what they need, or every node.

        Broken nodes do not raise: they are marked failed and what hangs on them waits, the rest is evaluated. Raises
        GraphError if the document itself is broken, Stopped as soon as ``should_stop`` says so between two nodes.
        """
        check_structure(document)
        document, troubles = written_out(document)
        values = dial_values(document, dials)
        order = order_of(document, targets)
        wanted = set(order if targets is not None else document["nodes"])
        problems = {problem.node: problem for problem in reversed(problems_of(document))}
        problems |= {name: Problem(name, message, parameter) for name, (parameter, message) in troubles.items()}
        ties = Ties(document, values)
        self.nodes = document["nodes"]
        done = Evaluation()
        with using_resources(shapes or resources()), stopping(should_stop):
            for number, name in enumerate(order):
                if should_stop and should_stop():
                    raise Stopped("stopped before it was finished")
                if on_progress:
                    on_progress(number, len(order), name)
                if name in problems:
                    done.nodes[name] = _failed(name, problems[name].message, problems[name].parameter)
                else:
                    done.nodes[name] = self._node(name, document["nodes"][name], values, ties, done)
        for name in wanted - set(order):
            if name in problems:
                done.nodes[name] = _failed(name, problems[name].message, None)
            else:
                done.nodes[name] = _failed(name, "it is part of a circle of wires", None)
        return done

    def _node(
        self, name: str, node: Mapping[str, Any], dials: Mapping[str, Any], ties: Ties, done: Evaluation
    ) -> NodeResult:
        for feed in feeds_of(node):
            if done.nodes[feed].state != "done":
                error = {"code": "waiting", "message": f"waits for '{feed}', which has no result", "cause": feed}
                return NodeResult(name, "waiting", error=error)
        try:
            chosen = operator_of(node)
            if chosen.writes is not None:
                text = chain_text({"nodes": self.nodes}, name)
                return NodeResult(name, "done", notes=(Note("note", text),), cached=True)
            inputs = _inputs(chosen, node, done)
            if node.get("skip"):
                return _skipped(name, chosen, node, done)
            values = chosen.check(node.get("parameters", {}))
            tied = ties.read_by(name, chosen, values)
            key = _key(chosen, values, node, dials, tied, done)
            known = self.cache.get(key)
            if known is None:
                known = _run(chosen, inputs, values, dials, tied)
                self.cache.put(key, known)
                return NodeResult(name, "done", key, _named(chosen, known), known.notes, known.seconds)
            return NodeResult(name, "done", key, _named(chosen, known), known.notes, known.seconds, cached=True)
        except Stopped:
            raise
        except ReticulaError as error:
            return NodeResult(name, "failed", error=error.details())
        except MemoryError:
            message = "there is not enough memory for this; make fewer elements"
            return NodeResult(name, "failed", error={"code": "limit", "message": message})


def _failed(name: str, message: str, parameter: str | None) -> NodeResult:
    return NodeResult(name, "failed", error={"code": "graph", "message": message, "parameter": parameter})


def _inputs(chosen: Operator, node: Mapping[str, Any], done: Evaluation) -> list[Any]:
    gathered: list[Any] = []
    for entry in chosen.inputs_for(node.get("parameters", {})):
        geometries = [done.geo(feed) for feed in node.get("inputs", {}).get(entry.name, [])]
        if entry.many:
            gathered.append(geometries)
        elif geometries:
            gathered.append(geometries[0])
        elif entry.optional:
            gathered.append(None)
        else:
            raise GeometryError(f"nothing is connected to '{entry.name}' ({entry.help})")
    return gathered


def _skipped(name: str, chosen: Operator, node: Mapping[str, Any], done: Evaluation) -> NodeResult:
    feeds = feeds_of(node)
    if not chosen.inputs or not feeds:
        raise GeometryError(f"{chosen.label} cannot be skipped: it has no input to pass on")
    wire = next(feed for fed in node["inputs"].values() for feed in fed)
    passed = {entry.name: done.geo(wire) for entry in chosen.outputs}
    return NodeResult(name, "done", _feed_key(done, wire), passed, seconds=0.0, cached=True, skipped=True)


def _named(chosen: Operator, entry: Entry) -> dict[str, Geo]:
    return {output.name: geo for output, geo in zip(chosen.outputs, entry.outputs, strict=True)}


def _feed_key(done: Evaluation, feed: str) -> str:
    node, output = split_feed(feed)
    result = done.nodes[node]
    first = not output or output == next(iter(result.outputs), "")
    return result.key if first else f"{result.key}:{output}"


def _key(
    chosen: Operator,
    values: Mapping[str, Any],
    node: Mapping[str, Any],
    dials: Mapping[str, Any],
    ties: Mapping[str, Any],
    done: Evaluation,
) -> str:
    read = {name for parameter in chosen.parameters for name in parameter.reads(values[parameter.name])}
    stored = [
        resources().key(values[parameter.name])
        for parameter in chosen.parameters
        if isinstance(parameter, Shape) and values[parameter.name].strip()
    ]
    parts = {
        "operator": [chosen.name, chosen.version],
        "values": dict(values),
        "ties": ties,
        "dials": {name: dials[name] for name in sorted(read) if name in dials},
        "inputs": {
            entry.name: [_feed_key(done, feed) for feed in node.get("inputs", {}).get(entry.name, [])]
            for entry in chosen.inputs_for(values)
        },
        "stored": stored,
    }
    return hashlib.blake2b(json.dumps(parts, sort_keys=True).encode(), digest_size=16).hexdigest()


def _run(
    chosen: Operator, inputs: list[Any], values: Mapping[str, Any], dials: Mapping[str, Any], ties: Mapping[str, Any]
) -> Entry:
    begin = time.perf_counter()
    with collecting() as notes:
        made = chosen.run(inputs, values, dials, ties)
    return Entry(made, tuple(notes), time.perf_counter() - begin)


def run_graph(
    document: Document,
    *,
    node: str | None = None,
    dials: Mapping[str, Any] | None = None,
    shapes: Resources | None = None,
) -> Geo:
    """Evaluate a document and return the geometry of one node: ``node``, else its result, else what it looks at."""
    check_structure(document)
    chosen = node or document.get("result") or document.get("looking_at") or next(reversed(document["nodes"]), None)
    if chosen is None:
        raise GraphError("the graph has no nodes")
    if split_feed(chosen)[0] not in document["nodes"]:
        raise GraphError(f"there is no node '{chosen}'; there are {', '.join(document['nodes'])}")
    return Evaluator().evaluate(document, dials=dials, targets=[chosen], shapes=shapes).geo(chosen)
