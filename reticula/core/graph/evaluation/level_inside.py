"""Looking inside a node: the level that its graph is, as it stands in one round of it."""

from __future__ import annotations

from reticula.core.context import KeyedGeo, using
from reticula.core.diagnostics import collecting
from reticula.core.errors import GraphError, ReticulaError, Stopped
from reticula.core.graph.evaluation.level import Level, LevelProbe, LevelReached, Part, geometry_of
from reticula.core.graph.evaluation.parameter_links import ParameterLinks
from reticula.core.graph.evaluation.results import Evaluation
from reticula.core.graph.structure.document import feeds_of
from reticula.core.operators.shared.nested_graph import names_given

__all__ = ["level_inside"]


def level_inside(level: Level, step: str, *, first: bool = False) -> Level:
    """Return the level inside a node, as it is in one run of it: ``node``, or ``node@3`` for a certain round or part.

    Without a number it is the last run, or the ``first`` one, before anything in it is evaluated.

    Where the node cannot be run (an input is missing), the level has what there is, unless the first run is asked for.
    Raises GraphError if there is no such node.
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
    probe = LevelProbe(run.depth + 1, int(number) if number.isdigit() else None, first)
    parts: dict[str, Part] = {}
    for entry in chosen.inputs:
        feeds = planned.node.get("inputs", {}).get(entry.name, [])
        there = feeds and done.nodes[feeds[0].partition(":")[0]].state == "done"
        parts[entry.name] = done.part(feeds[0]) if there else None
    run.probe = probe
    try:
        values = planned.values(level.dials)
        _, pairs = planned.read(values)
        tied = ParameterLinks(level.plan.document, level.dials).resolve(pairs, (name,), chosen)
        call = level.call_of(name, chosen, values, tied, parts)
        with collecting(), using(call=call, moment=level.moment):
            chosen.run([geometry_of(part) for part in parts.values()], values, level.dials, tied)
    except LevelReached:
        pass
    except ReticulaError as error:
        if first or isinstance(error, Stopped):
            raise
    finally:
        run.probe = None
        run.depth = probe.depth - 1
    if probe.level is not None:
        return probe.level
    own = {parameter.name for parameter in chosen.parameters} - set(chosen.graph.get("dials", {}))
    fallback = {parameter.name: parameter.default for parameter in chosen.parameters if parameter.name not in own}
    given = {entry: part for entry, part in parts.items() if isinstance(part, KeyedGeo)}
    extra = dict.fromkeys(names_given(chosen.name), 0) | {"iterations": 1, "parts": 1}
    return Level(run, run.store.plan(chosen.graph), {**fallback, **extra}, given, level.moment, (*level.path, step))
