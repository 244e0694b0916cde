"""Graphs inside nodes: what an operator that holds a graph is given to run it with."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from reticula.core.context import KeyedGeo, current, using
from reticula.core.diagnostics import warn
from reticula.core.errors import GeometryError, LimitError, ReticulaError
from reticula.core.geometry import Geo
from reticula.core.graph.evaluation.level import Level, Run
from reticula.core.graph.evaluation.plan import Plan
from reticula.core.graph.evaluation.results import Evaluation
from reticula.core.graph.evaluation.store import EvaluationStore
from reticula.core.graph.nesting.contracts import BROKEN_PROMISE, unmet
from reticula.core.graph.nesting.graph_operator import graph_runner
from reticula.core.language.scope import TIMELINE
from reticula.core.operators import Operator

__all__ = ["MOST_RUNS", "NestedError", "run_nested"]

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


def run_nested(
    made: Operator, base: Operator, geometries: Sequence[Geo | None], resolved: dict[str, Any]
) -> tuple[Geo, ...]:
    """Run an operator that holds a graph, inside an evaluation or on its own."""
    call = current().call
    if call is None:
        given = {
            entry.name: KeyedGeo(geo, geo.digest) for entry, geo in zip(made.inputs, geometries, strict=False) if geo
        }
        run = Run(EvaluationStore())
    else:
        given = {name: part for name, part in call.given.items() if isinstance(part, KeyedGeo)}
        run = call.run
        assert isinstance(run, Run)
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
        path = call.level.path if call and call.level else ()
        here = _HeldGraph(run, run.store.plan(made.graph), given, dials, call.node if call else made.label, path)
        here.before = call.before if call else None
        with using(nested_graph=here, call=None):
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
            warn(f"{BROKEN_PROMISE}: {found}.")
    return result


class _HeldGraph:
    """The graph of a node, as the operator that runs it knows it. See :class:`Inside`."""

    def __init__(
        self,
        run: Run,
        plan: Plan,
        given: Mapping[str, KeyedGeo],
        dials: Mapping[str, Any],
        node: str,
        path: tuple[str, ...],
    ) -> None:
        self._run, self._plan, self._dials, self._node = run, plan, dials, node
        self._moment = current().moment or TIMELINE
        self._path = path
        self.given = given
        self.before: Mapping[str, KeyedGeo] | None = None
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
        number = names.get("iteration", names.get("part"))
        path = (*self._path, self._node if number is None else f"{self._node}@{number}")
        level = Level(run, self._plan, {**self._dials, **names}, given, self._moment, path)
        if run.probe is not None and run.depth == run.probe.depth:
            run.probe.take(level, number)
            if run.probe.passes(names):
                return {name: KeyedGeo(Geo.empty(), "") for name in self._feeds}
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


graph_runner.run = run_nested
