"""The graph that a node holds, as the operator that runs it knows it: run once, or on each part of a geometry."""

from __future__ import annotations

import math
import time
from collections.abc import Iterable, Iterator, Mapping
from contextlib import closing
from typing import Any

from reticula.core.context import KeyedGeo, Spread, current
from reticula.core.diagnostics import note, warn
from reticula.core.errors import GeometryError, LimitError, ReticulaError, Unreachable
from reticula.core.geometry import Geo
from reticula.core.graph.evaluation.bundles import Bundle, Made, Shared, definitions
from reticula.core.graph.evaluation.level import Level, Run
from reticula.core.graph.evaluation.plan import Plan
from reticula.core.graph.evaluation.results import Evaluation
from reticula.core.language.scope import TIMELINE

__all__ = ["MOST_RUNS", "HeldGraph", "NestedError"]

MOST_RUNS = 200_000
"""Runs of graphs inside nodes in one evaluation, over all loops."""
MOST_TOLD = 8
INSIDE = "Inside, "
LOOK, HEAVY = 0.3, 4.0
"""Seconds for which parts are run here before it is said how heavy they are, and what the rest takes if they are."""
BUNDLE = 0.5
"""Seconds that a bundle of parts takes, so that handing it over costs little."""


class NestedError(ReticulaError):
    """A graph inside a node failed. ``inside`` names the node in it; ``parameter`` the dial that brought the value."""

    code = "nested"

    def __init__(self, message: str, *, inside: str, parameter: str | None = None) -> None:
        super().__init__(message)
        self.inside, self.parameter = inside, parameter

    def details(self) -> dict[str, Any]:
        return {**super().details(), "cause": self.inside, "parameter": self.parameter}


class HeldGraph:
    """The graph of a node, as the operator that runs it knows it. See :class:`~reticula.core.context.NestedGraph`."""

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
        self.hangs_on_other_frames = False
        self._feeds = {entry["name"]: entry["feed"] for entry in plan.document.get("outputs", [])}
        self.outputs = tuple(self._feeds)
        self._told: dict[str, None] = {}

    def run(self, given: Mapping[str, KeyedGeo], names: Mapping[str, Any]) -> dict[str, KeyedGeo]:
        run = self._run
        run.check()
        self._count(1)
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

    def run_parts(
        self, first: str, parts: Iterable[tuple[KeyedGeo, Mapping[str, Any]]], count: int, *, spread: bool = False
    ) -> Iterator[dict[str, Geo]]:
        may = spread and self._run.probe is None and not self.hangs_on_other_frames
        others, left = current().spread if may else None, iter(parts)
        begin = time.perf_counter()
        for number, (part, names) in enumerate(left, start=1):
            made = self.run({**self.given, first: part}, names)
            yield {name: one.geo for name, one in made.items()}
            spent = time.perf_counter() - begin
            if others is not None and spent > LOOK and spent / number * (count - number) > HEAVY:
                yield from self._spread(others, first, list(left), count, math.ceil(BUNDLE * number / spent))
                return

    def _spread(
        self, others: Spread, first: str, parts: list[tuple[KeyedGeo, Mapping[str, Any]]], count: int, size: int
    ) -> Iterator[dict[str, Geo]]:
        """Have others run the ``parts`` that are left of ``count``, in bundles of a ``size``; run here what they do not
        make.
        """
        run, plan = self._run, self._plan
        given = {name: part for name, part in self.given.items() if name != first}
        shared = Shared(
            plan.original, definitions(plan.original), self._dials, self._moment, given, first, self._node, self._path
        )
        bundles = [Bundle(parts[begin : begin + size]) for begin in range(0, len(parts), size)]
        made: dict[int, Made] = {}
        missing = 0
        try:
            with closing(others.run(shared, bundles)) as coming:
                for number, one in coming:
                    run.check()
                    made[number] = one
                    if run.on_progress and run.depth == 1:
                        run.on_progress(min(len(made) * size, len(parts)), len(parts), self._node)
                    while missing in made and made[missing].error is None:
                        missing += 1
                    if missing in made:
                        break  # all before the first that failed are there; no other one is wanted
        except Unreachable as error:
            warn(f"The cluster cannot help ({error}); the rest was made here.")
        others_made = sum(len(one.outputs) for one in made.values())
        note(f"The cluster made {others_made:,} of {count:,} parts.")
        for number, bundle in enumerate(bundles):
            if number not in made:
                for part, names in bundle.parts:
                    done = self.run({**self.given, first: part}, names)
                    yield {name: one.geo for name, one in done.items()}
                continue
            found = made.pop(number)
            self._count(found.runs)
            self._told |= dict.fromkeys(found.told)
            yield from found.outputs
            if found.error is not None:
                raise _error_of(found.error)

    def _count(self, runs: int) -> None:
        self._run.count += runs
        if self._run.count > MOST_RUNS:
            raise LimitError(
                f"the loops ran {MOST_RUNS:,} times, the most in one evaluation; take fewer rounds or parts"
            )

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

    @property
    def told(self) -> list[str]:
        """The warnings of all runs, each once."""
        return list(self._told)

    def tell(self) -> None:
        """Pass the warnings of all runs on, each once."""
        for text in list(self._told)[:MOST_TOLD]:
            warn(text)
        if len(self._told) > MOST_TOLD:
            warn(f"{INSIDE}{len(self._told) - MOST_TOLD} more warnings of this kind.")


def _title(plan: Plan, node: str) -> str:
    return plan.document["nodes"][node].get("title") or node


def _error_of(told: Mapping[str, Any]) -> ReticulaError:
    """Return the error that a part failed with elsewhere."""
    message = str(told.get("message", "failed"))
    if told.get("code") == NestedError.code:
        return NestedError(message, inside=str(told.get("cause")), parameter=told.get("parameter"))
    return LimitError(message) if told.get("code") == LimitError.code else GeometryError(message)
