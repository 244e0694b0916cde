"""One level of a graph being run: its nodes one after the other, each from the cache if it is known there."""

from __future__ import annotations

import hashlib
import json
import logging
import math
import time
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from functools import partial
from typing import Any, Protocol

from reticula.core.context import KeyedGeo, NodeCall, Note, using
from reticula.core.diagnostics import collecting
from reticula.core.errors import GeometryError, ReticulaError, Stopped
from reticula.core.geometry import Geo
from reticula.core.graph.evaluation.cache import Entry
from reticula.core.graph.evaluation.parameter_links import ParameterLinks
from reticula.core.graph.evaluation.plan import NodePlan, Plan
from reticula.core.graph.evaluation.results import Evaluation, NodeResult
from reticula.core.graph.evaluation.store import EvaluationStore
from reticula.core.graph.structure.document import feeds_of
from reticula.core.graph.values.nodes_to_formula import nodes_to_formula
from reticula.core.operators import Operator
from reticula.core.operators.declaration.parameters import Context, Shape
from reticula.core.operators.shared.resources import resources
from reticula.core.spans import recording, span

__all__ = ["Level", "LevelProbe", "LevelReached", "Moments", "Part", "Run", "geometry_of", "parts_of"]

Part = KeyedGeo | list[KeyedGeo] | None
"""What is connected to one input."""


log = logging.getLogger(__name__)


class LevelReached(Exception):
    """The level that is looked for was reached."""


class Moments(Protocol):
    """The graph of an evaluation at any of its frames. ``question`` is a hash of all that results hang on, the frame
    aside.
    """

    @property
    def question(self) -> str: ...

    def parts(self, level: Level, node: str, frame: float) -> dict[str, Part]:
        """Return what is connected to the inputs of a node of a level, at another frame."""
        ...

    def result(self, level: Level, node: str, frame: float) -> NodeResult:
        """Return what becomes of a node of a level at another frame."""
        ...

    def before(self, level: Level, node: str, reset: float) -> dict[str, KeyedGeo] | None:
        """Return the outputs of a node one frame ago; None at the frame ``reset`` and before it."""
        ...


@dataclass
class LevelProbe:
    """Waits for the graph of one node to be run: in a certain round, for the ``first`` time, or the last one."""

    depth: int
    number: int | None
    first: bool = False
    level: Level | None = None

    def take(self, level: Level, number: int | None) -> None:
        self.level = level
        wanted = self.first if self.number is None or number is None else number >= self.number
        if wanted:
            raise LevelReached

    def passes(self, names: Mapping[str, Any]) -> bool:
        """Whether a run need not be made: parts of a geometry do not hang on those before."""
        return self.number is not None and "part" in names


@dataclass
class Run:
    """One evaluation: where results are kept, who is told how far it is, who may stop it, and how often graphs inside
    ran.
    """

    store: EvaluationStore
    on_progress: Callable[[int, int, str], None] | None = None
    should_stop: Callable[[], bool] | None = None
    count: int = 0
    depth: int = 0
    probe: LevelProbe | None = None
    moments: Moments | None = None

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
    moment: Mapping[str, float] = field(default_factory=dict)
    """What formulas read of time."""
    path: tuple[str, ...] = ()
    """The way here from the outermost graph, by nodes and rounds."""
    keep: bool = False
    known: dict[str, NodeResult] = field(default_factory=dict)
    """What is done already, where it is to be kept."""
    needed: dict[str, int] = field(default_factory=dict)
    """Which of its wires a node needs, by number, if it needs one only."""

    def evaluate(self, targets: list[str] | None, first: str | None = None) -> Evaluation:
        """Evaluate ``targets`` and what they need; or every node, beginning with ``first``, but for those of which
        nothing is needed. Broken nodes do not raise: they are marked failed.
        """
        with using(moment=self.moment):
            return self._evaluate(targets, first)

    def _evaluate(self, targets: list[str] | None, first: str | None) -> Evaluation:
        plan = self.plan
        done = Evaluation(document=plan.document, dials=self.dials, moment=self.moment, plan=plan)
        ties = ParameterLinks(plan.document, self.dials)
        self.needed = self._needed(ties)
        order = plan.order(targets, first, self.needed)
        for number, name in enumerate(order):
            self.run.check()
            if self.run.on_progress and self.run.depth == 0:
                self.run.on_progress(number, len(order), name)
            if name in self.known:
                done.nodes[name] = self.known[name]
                continue
            problem = plan.problems.get(name)
            done.nodes[name] = (
                _failed(name, problem.message, problem.parameter) if problem else self._node(name, ties, done)
            )
            if self.keep:
                self.known[name] = done.nodes[name]
        for name in plan.idle(order) if targets is None else ():
            done.nodes[name] = NodeResult(name, "idle")
        for name in set(plan.document["nodes"]) - set(done.nodes) if targets is None else ():
            problem = plan.problems.get(name)
            done.nodes[name] = _failed(name, problem.message if problem else "it is part of a circle of wires", None)
        return done

    def _needed(self, ties: ParameterLinks) -> dict[str, int]:
        """Return which wire is needed of nodes that need one only, as far as that can be said before they run."""
        found: dict[str, int] = {}
        for name in self.plan.choosing:
            try:
                planned = self.plan.node(name)
                needs, values = planned.operator.needs, planned.values(self.dials)
                tied = ties.resolve(planned.read(values)[1], (name,), planned.operator)
                number = needs and needs(partial(self._once, planned.operator, values, tied), planned.wires)
            except ReticulaError:
                continue
            if number is not None and not planned.node.get("skip"):
                found[name] = number
        return found

    def _node(self, name: str, ties: ParameterLinks, done: Evaluation) -> NodeResult:
        node = self.plan.document["nodes"][name]
        for feed in self.plan.feeds(name, self.needed):
            if feed not in done.nodes:
                return _failed(name, f"a wire comes from '{feed}', and there is no such node", None)
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
        except (Stopped, LevelReached):
            raise
        except ReticulaError as error:
            return NodeResult(name, "failed", error=error.details())
        except MemoryError:
            message = "there is not enough memory for this; make fewer elements"
            return NodeResult(name, "failed", error={"code": "limit", "message": message})
        except Exception as error:
            log.exception("a node failed in an unexpected way")
            message = f"this should not happen: {type(error).__name__}: {str(error)[:300]}; the other nodes go on"
            return NodeResult(name, "failed", error={"code": "internal", "message": message})

    def _run(self, name: str, planned: NodePlan, ties: ParameterLinks, done: Evaluation) -> NodeResult:
        chosen = planned.operator
        values = planned.values(self.dials)
        names, pairs = planned.read(values)
        tied = ties.resolve(pairs, (name,), chosen)
        if chosen.remembers and self.run.moments is not None:
            frame, reset = self.moment["frame"], float(self._once(chosen, values, tied, "reset"))
            held = reset + math.floor(frame - reset + 1e-9)
            if held < frame and reset < frame:
                return replace(self.run.moments.result(self, name, held), cached=True)
        parts = parts_of(chosen, planned.node, done, self.needed.get(name))
        frames, before = self._other_frames(name, chosen, values, tied)
        told = self._told_of_tables(planned, names) if self.plan.told_of_tables else []
        key = self._key(chosen, values, names, tied, parts, frames, before, told)
        known = self.run.store.cache.get(key)
        cached = known is not None
        if known is None:
            begin = time.perf_counter()
            call = NodeCall(name, parts, self.run, self, frames, before)
            with span(f"node {name}"), recording() as spans, collecting() as notes, using(call=call):
                made = chosen.run([geometry_of(part) for part in parts.values()], values, self.dials, tied)
            notes += [*planned.told_of_dials, *(Note("note", text) for text in told)]
            known = Entry(
                made,
                tuple(notes),
                time.perf_counter() - begin,
                spans.sums,
            )
            self.run.store.cache.put(key, known)
        outputs = {output.name: geo for output, geo in zip(chosen.outputs, known.outputs, strict=True)}
        return NodeResult(name, "done", key, outputs, known.notes, known.seconds, known.parts, cached)

    def _told_of_tables(self, planned: NodePlan, names: frozenset[str]) -> list[str]:
        """Return what there is to be said of the tables that the dials of a node follow."""
        read = names | set(planned.bound.values())
        return [text for name, texts in self.plan.told_of_tables.items() if name in read for text in texts]

    def _other_frames(
        self, name: str, chosen: Operator, values: Mapping[str, Any], tied: Mapping[str, Any]
    ) -> tuple[dict[float, dict[str, Part]], dict[str, KeyedGeo] | None]:
        """Return what comes in at the frames that an operator looks at, and its own outputs of the frame before."""
        if (chosen.frames is None and not chosen.remembers) or self.run.moments is None:
            return {}, None
        once = partial(self._once, chosen, values, tied)
        before = None
        if chosen.remembers:
            before = self.run.moments.before(self, name, float(once("reset")))
        wanted = chosen.frames(once, self.moment) if chosen.frames else ()
        return {float(frame): self.run.moments.parts(self, name, float(frame)) for frame in wanted}, before

    def call_of(
        self,
        name: str,
        chosen: Operator,
        values: Mapping[str, Any],
        tied: Mapping[str, Any],
        parts: Mapping[str, Part],
    ) -> NodeCall:
        """Return the call of a node with what comes in, also at other frames."""
        with using(moment=self.moment):
            frames, before = self._other_frames(name, chosen, values, tied)
        return NodeCall(name, parts, self.run, self, frames, before)

    def _once(self, chosen: Operator, values: Mapping[str, Any], tied: Mapping[str, Any], parameter: str) -> Any:
        """Return what an operator's function would receive for a parameter that does not vary over elements."""
        return chosen.parameter(parameter).resolve(values[parameter], Context({}, self.dials, {}, tied))

    def _key(
        self,
        chosen: Operator,
        values: Mapping[str, Any],
        names: frozenset[str],
        tied: Mapping[str, Any],
        parts: Mapping[str, Any],
        frames: Mapping[float, Mapping[str, Part]],
        before: Mapping[str, KeyedGeo] | None,
        told: list[str],
    ) -> str:
        stored = [
            resources().key(values[parameter.name])
            for parameter in chosen.parameters
            if isinstance(getattr(parameter, "inner", parameter), Shape) and values[parameter.name].strip()
        ]
        read = {
            "operator": [chosen.name, chosen.version, chosen.content],
            "values": values,
            "ties": tied,
            "dials": {name: self.dials[name] for name in sorted(names) if name in self.dials},
            "inputs": _keys_of(parts),
            "stored": stored,
        }
        if told:
            read["told"] = told
        if frames:
            read["frames"] = {str(frame): _keys_of(there) for frame, there in frames.items()}
        if before is not None:
            read["before"] = _keys_of(before)
        inside = self.run.store.time_inside(chosen)
        timely = ((names - self.dials.keys()) | inside.names) & self.moment.keys()
        if frames:
            timely |= {"seconds_per_frame"}
        if chosen.remembers or inside.elsewhere:
            timely = frozenset(self.moment)
        if inside.elsewhere and self.run.moments is not None:
            # What it looks at, inside, may be anything that feeds it, at any frame.
            read["moments"] = self.run.moments.question
        if timely:
            read["time"] = {name: self.moment[name] for name in sorted(timely)}
        return hashlib.blake2b(json.dumps(read, sort_keys=True).encode(), digest_size=16).hexdigest()


def _keys_of(parts: Mapping[str, Part]) -> dict[str, Any]:
    return {
        entry: [one.key for one in part] if isinstance(part, list) else part and part.key
        for entry, part in parts.items()
    }


def _failed(name: str, message: str, parameter: str | None) -> NodeResult:
    return NodeResult(name, "failed", error={"code": "graph", "message": message, "parameter": parameter})


def geometry_of(part: Part) -> Geo | list[Geo] | None:
    return [one.geo for one in part] if isinstance(part, list) else part.geo if part else None


def parts_of(chosen: Operator, node: Mapping[str, Any], done: Evaluation, needed: int | None = None) -> dict[str, Part]:
    """Return what is connected to each input of a node; one that is ``needed`` alone also stands for the
    others.
    """
    gathered: dict[str, Part] = {}
    for entry in chosen.inputs_for(node.get("parameters", {})):
        wires = node.get("inputs", {}).get(entry.name, [])
        connected = [done.part(feed if needed is None else wires[needed]) for feed in wires]
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
