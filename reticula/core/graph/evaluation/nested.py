"""Graphs inside nodes: what an operator that holds a graph is given to run it with."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from reticula.core.context import KeyedGeo, current, using
from reticula.core.diagnostics import warn
from reticula.core.errors import GeometryError, LimitError
from reticula.core.geometry import Geo
from reticula.core.graph.evaluation.held_graph import HeldGraph
from reticula.core.graph.evaluation.level import Run
from reticula.core.graph.evaluation.store import EvaluationStore
from reticula.core.graph.nesting.contracts import BROKEN_PROMISE, unmet
from reticula.core.graph.nesting.graph_operator import graph_runner
from reticula.core.operators import Operator

__all__ = ["run_nested"]

DEEPEST = 32


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
        here = HeldGraph(run, run.store.plan(made.graph), given, dials, call.node if call else made.label, path)
        here.before = call.before if call else None
        here.hangs_on_other_frames = run.store.time_inside(made).elsewhere
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


graph_runner.run = run_nested
