"""One level of a graph being run, and the graphs inside its nodes."""

from __future__ import annotations

import hashlib
import json
import time
from collections.abc import Callable, Mapping, Sequence
from contextvars import ContextVar
from dataclasses import dataclass, field
from typing import TYPE_CHECKING, Any

from reticula.core.diagnostics import Note, collecting, warn
from reticula.core.errors import GeometryError, GraphError, LimitError, ReticulaError, Stopped
from reticula.core.geometry import Geo
from reticula.core.graph.evaluation.cache import Entry
from reticula.core.graph.evaluation.parameter_links import ParameterLinks
from reticula.core.graph.evaluation.plan import NodePlan, Plan
from reticula.core.graph.evaluation.results import Evaluation, NodeResult
from reticula.core.graph.nesting.contracts import unmet
from reticula.core.graph.nesting.graph_operator import HOLDERS
from reticula.core.graph.structure.document import feeds_of
from reticula.core.graph.values.nodes_to_formula import nodes_to_formula
from reticula.core.operators import Operator
from reticula.core.operators.declaration.parameters import Shape
from reticula.core.operators.shared.nested_runner import KeyedGeo, using_nested_graph
from reticula.core.operators.shared.resources import resources

if TYPE_CHECKING:
    from reticula.core.graph.evaluation.evaluator import Evaluator

__all__ = ["Level", "NestedError", "Run", "run_nested"]

DEEPEST = 32
MOST_RUNS = 200_000
"""Runs of graphs inside nodes in one evaluation, over all loops."""
MOST_TOLD = 8
INSIDE = "Inside, "


class NestedError(ReticulaError):
    """A graph inside a node failed. ``inside`` names the node in it; ``parameter`` the dial that brought the value."""

    code = "nested"

    def __init__(self, message: str, *, inside: str, parameter: str | None = None) -> None:
        super().__init__(message)
        self.inside, self.parameter = inside, parameter

    def details(self) -> dict[str, Any]:
        return {**super().details(), "cause": self.inside, "parameter": self.parameter}


@dataclass
class Run:
    """One evaluation: whose cache, who is told how far it is, who may stop it, and how often graphs inside ran."""

    evaluator: Evaluator
    on_progress: Callable[[int, int, str], None] | None = None
    should_stop: Callable[[], bool] | None = None
    count: int = 0
    depth: int = 0
    looking: _Looking | None = None

    def check(self) -> None:
        """Raise Stopped if the work is not wanted any more."""
        if self.should_stop and self.should_stop():
            raise Stopped("stopped before it was finished")


@dataclass
class Level:
    """A graph with the values it runs on: dials, and what comes in by input."""

    run: Run
    plan: Plan
    dials: Mapping[str, Any]
    given: Mapping[str, KeyedGeo] = field(default_factory=dict)

    def evaluate(self, targets: list[str] | None) -> Evaluation:
        """Evaluate ``targets`` and what they need, or every node. Broken nodes do not raise: they are marked failed."""
        plan = self.plan
        order = plan.order(targets)
        done = Evaluation(document=plan.document, dials=self.dials)
        ties = ParameterLinks(plan.document, self.dials)
        for number, name in enumerate(order):
            self.run.check()
            if self.run.on_progress and self.run.depth == 0:
                self.run.on_progress(number, len(order), name)
            problem = plan.problems.get(name)
            done.nodes[name] = (
                _failed(name, problem.message, problem.parameter) if problem else self._node(name, ties, done)
            )
        for name in set(plan.document["nodes"]) - set(order) if targets is None else ():
            problem = plan.problems.get(name)
            done.nodes[name] = _failed(name, problem.message if problem else "it is part of a circle of wires", None)
        return done

    def _node(self, name: str, ties: ParameterLinks, done: Evaluation) -> NodeResult:
        node = self.plan.document["nodes"][name]
        for feed in feeds_of(node):
            if done.nodes[feed].state != "done":
                error = {"code": "waiting", "message": f"waits for '{feed}', which has no result", "cause": feed}
                return NodeResult(name, "waiting", error=error)
        try:
            planned = self.plan.node(name)
            chosen = planned.operator
            if chosen.writes is not None:
                return NodeResult(
                    name, "done", notes=(Note("note", nodes_to_formula(self.plan.original, name)),), cached=True
                )
            if chosen.name == "input":
                entry = planned.values(self.dials)["name"]
                if entry in self.given:
                    part = self.given[entry]
                    return NodeResult(name, "done", part.key, {"geo": part.geo}, cached=True)
            if node.get("skip"):
                return _skipped(name, chosen, node, done)
            return self._run(name, planned, ties, done)
        except Stopped:
            raise
        except ReticulaError as error:
            return NodeResult(name, "failed", error=error.details())
        except MemoryError:
            message = "there is not enough memory for this; make fewer elements"
            return NodeResult(name, "failed", error={"code": "limit", "message": message})

    def _run(self, name: str, planned: NodePlan, ties: ParameterLinks, done: Evaluation) -> NodeResult:
        chosen = planned.operator
        parts = _parts(chosen, planned.node, done)
        values = planned.values(self.dials)
        names, pairs = planned.read(values)
        tied = ties.resolve(pairs, (name,), chosen)
        key = self._key(chosen, values, names, tied, parts)
        known = self.run.evaluator.cache.get(key)
        cached = known is not None
        if known is None:
            begin = time.perf_counter()
            with collecting() as notes, _calling(_Call(self.run, parts, name)):
                made = chosen.run([_geometry(part) for part in parts.values()], values, self.dials, tied)
            if planned.put_by:
                notes.append(
                    Note("note", f"There is no dial {' or '.join(planned.put_by)} any more; the value is put by.")
                )
            known = Entry(made, tuple(notes), time.perf_counter() - begin)
            self.run.evaluator.cache.put(key, known)
        outputs = {output.name: geo for output, geo in zip(chosen.outputs, known.outputs, strict=True)}
        return NodeResult(name, "done", key, outputs, known.notes, known.seconds, cached)

    def _key(
        self, chosen: Operator, values: Mapping[str, Any], names: frozenset[str], tied: Mapping[str, Any], parts: Mapping[str, Any]
    ) -> str:  # fmt: skip
        stored = [
            resources().key(values[parameter.name])
            for parameter in chosen.parameters
            if isinstance(getattr(parameter, "inner", parameter), Shape) and values[parameter.name].strip()
        ]
        read = {
            "operator": [chosen.name, chosen.version, chosen.content], "values": values, "ties": tied,
            "dials": {name: self.dials[name] for name in sorted(names) if name in self.dials},
            "inputs": {entry: [one.key for one in part] if isinstance(part, list) else part and part.key for entry, part in parts.items()},
            "stored": stored,
        }  # fmt: skip
        return hashlib.blake2b(json.dumps(read, sort_keys=True).encode(), digest_size=16).hexdigest()


def _failed(name: str, message: str, parameter: str | None) -> NodeResult:
    return NodeResult(name, "failed", error={"code": "graph", "message": message, "parameter": parameter})


def _geometry(part: KeyedGeo | list[KeyedGeo] | None) -> Geo | list[Geo] | None:
    return [one.geo for one in part] if isinstance(part, list) else part.geo if part else None


def _parts(chosen: Operator, node: Mapping[str, Any], done: Evaluation) -> dict[str, KeyedGeo | list[KeyedGeo] | None]:
    """Return what is connected to each input of a node."""
    gathered: dict[str, KeyedGeo | list[KeyedGeo] | None] = {}
    for entry in chosen.inputs_for(node.get("parameters", {})):
        connected = [done.part(feed) for feed in node.get("inputs", {}).get(entry.name, [])]
        if not connected and not entry.optional and not entry.many:
            raise GeometryError(f"nothing is connected to '{entry.name}' ({entry.help})")
        gathered[entry.name] = connected if entry.many else connected[0] if connected else None
    return gathered


def _skipped(name: str, chosen: Operator, node: Mapping[str, Any], done: Evaluation) -> NodeResult:
    if not chosen.inputs or not feeds_of(node):
        raise GeometryError(f"{chosen.label} cannot be skipped: it has no input to pass on")
    part = done.part(next(feed for fed in node["inputs"].values() for feed in fed))
    return NodeResult(
        name, "done", part.key, {entry.name: part.geo for entry in chosen.outputs}, cached=True, skipped=True
    )


# ---- graphs inside nodes


@dataclass(frozen=True)
class _Call:
    """The node that is being run: in which evaluation, and what came in, by input."""

    run: Run
    parts: Mapping[str, KeyedGeo | list[KeyedGeo] | None]
    node: str


_call: ContextVar[_Call | None] = ContextVar("call", default=None)


class _calling:  # noqa: N801
    """Makes a call known inside the block."""

    def __init__(self, call: _Call | None) -> None:
        self.call = call

    def __enter__(self) -> None:
        self.token = _call.set(self.call)

    def __exit__(self, *_: object) -> None:
        _call.reset(self.token)


def run_nested(
    made: Operator, base: Operator, geometries: Sequence[Geo | None], resolved: dict[str, Any]
) -> tuple[Geo, ...]:
    """Run an operator that holds a graph, inside an evaluation or on its own."""
    from reticula.core.graph.evaluation.evaluator import Evaluator

    call = _call.get()
    if call is None:
        given = {
            entry.name: KeyedGeo(geo, geo.digest) for entry, geo in zip(made.inputs, geometries, strict=False) if geo
        }
        run = Run(Evaluator())
    else:
        given = {name: part for name, part in call.parts.items() if isinstance(part, KeyedGeo)}
        run = call.run
    assert made.graph is not None
    for entry in made.graph.get("inputs", []):
        for condition in entry.get("expects", []):
            found = unmet(condition, given[entry["name"]].geo) if entry["name"] in given else None
            if found:
                raise GeometryError(f"'{entry['name']}' is not as expected: {found}")
    own = {parameter.name: resolved[parameter.name] for parameter in base.parameters}
    dials = {name: value for name, value in resolved.items() if name not in own}
    if run.depth >= DEEPEST:
        raise LimitError(f"graphs inside graphs go {DEEPEST} deep at most")
    run.depth += 1
    try:
        here = _Inside(run, run.evaluator.plan(made.graph), given, dials, call.node if call else made.label)
        with using_nested_graph(here), _calling(None):
            outputs = base.body(**own)
    finally:
        run.depth -= 1
    result = outputs if isinstance(outputs, tuple) else (outputs,)
    here.tell()
    named = dict(zip((entry.name for entry in made.outputs), result, strict=False))
    inputs = {name: part.geo for name, part in given.items()}
    for condition in made.graph.get("contracts", []):
        geo = named.get(condition.get("output") or made.outputs[0].name)
        found = unmet(condition, geo, inputs) if geo is not None else None
        if found:
            warn(f"What this operator promises does not hold: {found}.")
    return result


class _Inside:
    """The graph of a node, as the operator that runs it knows it. See :class:`Inside`."""

    def __init__(
        self, run: Run, plan: Plan, given: Mapping[str, KeyedGeo], dials: Mapping[str, Any], node: str
    ) -> None:
        self._run, self._plan, self._dials, self._node = run, plan, dials, node
        self.given = given
        self._feeds = {entry["name"]: entry["feed"] for entry in plan.document.get("outputs", [])}
        self.outputs = tuple(self._feeds)
        self._told: dict[str, None] = {}

    def run(self, given: Mapping[str, KeyedGeo], names: Mapping[str, Any]) -> dict[str, KeyedGeo]:
        run = self._run
        run.check()
        run.count += 1
        if run.count > MOST_RUNS:
            raise LimitError(
                f"the loops ran {MOST_RUNS:,} times, the most in one evaluation; take fewer rounds or parts"
            )
        total = names.get("iterations", names.get("parts"))
        if total and run.on_progress and run.depth == 1:
            run.on_progress(names.get("iteration", names.get("part", 0)), total, self._node)
        level = Level(run, self._plan, {**self._dials, **names}, given)
        if run.looking is not None and run.depth == run.looking.depth:
            run.looking.take(level, names.get("iteration", names.get("part")))
        done = level.evaluate(list(self._feeds.values()))
        self._gather(done)
        return {name: self._output(name, feed, level, done) for name, feed in self._feeds.items()}

    def _output(self, name: str, feed: str, level: Level, done: Evaluation) -> KeyedGeo:
        failing = done.failing(feed)
        if failing.state != "done":
            error = failing.error or {}
            title = _title(self._plan, failing.node)
            parameter = error.get("parameter")
            bound = self._plan.node(failing.node).bound if failing.node not in self._plan.problems else {}
            dial = bound.get(parameter or "")
            path = f"{failing.node}/{error['cause']}" if error.get("code") == "nested" else failing.node
            message = str(error.get("message", "failed"))
            if error.get("code") == "nested":
                message = f"inside, {title} › {message.removeprefix('inside, ')}"
            else:
                message = f"inside, {title}: {message}"
            raise NestedError(message, inside=path, parameter=dial)
        return done.part(feed)

    def _gather(self, done: Evaluation) -> None:
        for name, result in done.nodes.items():
            for found in result.notes:
                if found.level == "warning":
                    deeper = found.text.startswith(INSIDE)
                    rest = f" › {found.text.removeprefix(INSIDE)}" if deeper else f": {found.text}"
                    self._told.setdefault(f"{INSIDE}{_title(self._plan, name)}{rest}")

    def tell(self) -> None:
        """Pass the warnings of all runs on, each once."""
        for text in list(self._told)[:MOST_TOLD]:
            warn(text)
        if len(self._told) > MOST_TOLD:
            warn(f"{INSIDE}{len(self._told) - MOST_TOLD} more warnings of this kind.")


def _title(plan: Plan, node: str) -> str:
    return plan.document["nodes"][node].get("title") or node


# ---- looking inside


class _Reached(Exception):
    """The level that is looked for was reached."""


@dataclass
class _Looking:
    """Waits for the graph of one node to be run, in a certain round or the last one."""

    depth: int
    number: int | None
    level: Level | None = None

    def take(self, level: Level, number: int | None) -> None:
        self.level = level
        if self.number is not None and number is not None and number >= self.number:
            raise _Reached


def level_inside(level: Level, step: str) -> Level:
    """Return the level inside a node, as it is in one run of it: ``node``, or ``node@3`` for a certain round or part.

    Where the node cannot be run (an input is missing), the level has what there is. Raises GraphError if there is no such node.
    """
    name, _, number = step.partition("@")
    if name not in level.plan.document["nodes"]:
        raise GraphError(f"there is no node '{name}' to look into", node=name)
    planned = level.plan.node(name)
    chosen = planned.operator
    if chosen.graph is None:
        raise GraphError(f"'{name}' holds no graph to look into", node=name)
    done = level.evaluate(feeds_of(planned.node) or [name]) if feeds_of(planned.node) else Evaluation()
    run = level.run
    looking = _Looking(run.depth + 1, int(number) if number.isdigit() else None)
    parts: dict[str, KeyedGeo | list[KeyedGeo] | None] = {}
    for entry in chosen.inputs:
        feeds = planned.node.get("inputs", {}).get(entry.name, [])
        there = feeds and done.nodes[feeds[0].partition(":")[0]].state == "done"
        parts[entry.name] = done.part(feeds[0]) if there else None
    run.looking = looking
    try:
        values = planned.values(level.dials)
        _, pairs = planned.read(values)
        tied = ParameterLinks(level.plan.document, level.dials).resolve(pairs, (name,), chosen)
        with collecting(), _calling(_Call(run, parts, name)):
            chosen.run([_geometry(part) for part in parts.values()], values, level.dials, tied)
    except (_Reached, ReticulaError) as error:
        if isinstance(error, Stopped):
            raise
    finally:
        run.looking = None
        run.depth = looking.depth - 1
    if looking.level is not None:
        return looking.level
    own = {parameter.name for parameter in chosen.parameters} - set(chosen.graph.get("dials", {}))
    fallback = {parameter.name: parameter.default for parameter in chosen.parameters if parameter.name not in own}
    given = {entry: part for entry, part in parts.items() if isinstance(part, KeyedGeo)}
    extra = {} if name not in HOLDERS else {"iteration": 0, "iterations": 1, "part": 0, "parts": 1, "part_value": 0}
    return Level(run, run.evaluator.plan(chosen.graph), {**fallback, **extra}, given)
