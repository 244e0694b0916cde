"""What a text means where it stands in a graph, while it is being written: its error, its names, what it would give."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from typing import Any, cast

import numpy as np

from reticula.core.diagnostics import collecting
from reticula.core.errors import FormulaError, ReticulaError
from reticula.core.geometry import Geo
from reticula.core.geometry.edit.placement import in_space_of
from reticula.core.geometry.mesh.kinds import KINDS, Kind
from reticula.core.graph.evaluation.evaluator import Evaluation
from reticula.core.graph.evaluation.parameter_links import ParameterLinks
from reticula.core.graph.nesting.binding import substitute_dials
from reticula.core.graph.nesting.dials import DialParameter
from reticula.core.graph.nesting.graph_operator import operator_of
from reticula.core.language.completions import describe_members, describe_names, values_in_words
from reticula.core.language.controls import Declared, declared
from reticula.core.language.profiles import profile_of
from reticula.core.language.scope import Scope
from reticula.core.language.script import Script
from reticula.core.operators import Operator
from reticula.core.operators.declaration.parameters import Context, OnElements, Parameter, Selection, is_wire
from reticula.core.operators.scripting.controls import Code, Controls, Source, parameter_of

__all__ = ["inspect_text"]


def inspect_text(
    done: Evaluation, node: str, parameter: str, source: str, elements: Sequence[int] = ()
) -> dict[str, Any]:
    """Return what is known about ``source`` as the value of a node's parameter; the node's inputs must be evaluated.

    The node is one of the level that was evaluated.

    ``error`` with line, column and length, or none; ``names`` and ``members`` that can be written; ``result`` in words;
    for a script also its ``controls``, ``inputs`` and what it prints for ``elements``.
    """
    document, dials = done.document, done.dials
    entry = document["nodes"][node]
    chosen = operator_of(entry)
    given = substitute_dials(entry.get("parameters", {}), dials)
    # What is being written may not fit yet: it is told about, not refused.
    parameters = {name: value for name, value in given.items() if not is_wire(value) and name != parameter}
    values = chosen.check(parameters)
    asked = _asked(chosen, parameter, values)
    values[parameter] = asked.check(source if isinstance(asked, (Code, Selection)) else {"formula": source})
    feeds = entry.get("inputs", {})
    inputs: dict[str, Geo | None] = {}
    for port in chosen.inputs_for(values):
        wired = feeds.get(port.name, [])
        if not port.many:
            inputs[port.name] = done.geo(wired[0]) if wired and _is_done(done, wired[0]) else None
    first = next((geo for geo in inputs.values() if geo is not None), None)
    seen = {
        name: in_space_of(geo, first) if geo is not None and first is not None else geo for name, geo in inputs.items()
    }
    ties = ParameterLinks(document, dials).read_by(node, chosen, values)
    here = Context(seen, dials, values, ties)
    if isinstance(asked, Code):
        return _of_script(chosen, source, here, elements)
    return _of_formula(source, asked, here)


def _asked(chosen: Operator, parameter: str, values: Mapping[str, Any]) -> Parameter:
    """The parameter that a text is for; ``controls.NAME`` is a control that a script declares."""
    owner, _, control = parameter.partition(".")
    if control and isinstance(chosen.parameter(owner), Controls):
        for known in declared(values["source"]).controls:
            if known.name == control:
                return parameter_of(known)
    found = chosen.parameter(parameter)
    return found.inner if isinstance(found, DialParameter) else found


def _is_done(done: Evaluation, feed: str) -> bool:
    found = done.nodes.get(feed.partition(":")[0])
    return found is not None and found.state == "done"


def _of_formula(source: str, asked: Parameter, here: Context) -> dict[str, Any]:
    kind, geo = _elements_of(asked, here)
    scope = Scope(geo, kind, here.dials, here.inputs, here.ties)
    found: dict[str, Any] = {
        "error": None,
        "result": "",
        "names": describe_names(scope),
        "members": describe_members(scope),
    }
    if isinstance(asked, Selection) and not source.strip():
        return {**found, "result": f"all {geo.topology.count(kind):,}"}
    try:
        if isinstance(asked, OnElements):
            wanted = "flag" if isinstance(asked, Selection) else getattr(asked, "type", None)
            wanted = None if wanted in ("as chosen", "any") else wanted
            made = here.evaluate(source, geo, kind, wanted)
            found["result"] = f"{made.type}: {values_in_words(made.array, made.type)}"
        else:
            once = here.once(source, asked.formula_type)
            found["result"] = values_in_words(np.asarray([once]), asked.formula_type)
    except FormulaError as error:
        found["error"] = error.details()
    except ReticulaError as error:
        found["error"] = {**error.details(), "line": 1, "column": 1, "length": len(source)}
    return found


def _elements_of(asked: Parameter, here: Context) -> tuple[Kind, Geo]:
    """The kind that a formula runs on, and of which geometry."""
    if not isinstance(asked, OnElements):
        return "whole", here.inputs.get("geo") or Geo.empty()
    kind = asked.on if asked.on in KINDS else here.values.get(asked.on, "point")
    return cast(Kind, kind), here.inputs.get(asked.of) or Geo.empty()


def _of_script(chosen: Operator, source: str, here: Context, elements: Sequence[int]) -> dict[str, Any]:
    geo = here.inputs.get("geo") or Geo.empty()
    each = here.values["each"]
    kind: Kind = "whole" if each == "once" else "point" if each == "piece" else each
    found: dict[str, Any] = {"error": None, "result": "", "controls": None, "inputs": None, "printed": []}
    known = Declared((), ())
    try:
        known = declared(source)
        found["controls"] = [parameter_of(control).describe() for control in known.controls]
        found["inputs"] = [
            {"name": entry.name, "help": entry.help, "many": False, "optional": True} for entry in known.inputs
        ]
        with collecting():
            text = replace(here, values={"source": Source(source, here.dials, here.ties)})
            controls = chosen.parameter("controls").resolve(here.values["controls"], text)
            script = Script(source, geo, each, inputs=here.inputs, controls=controls, dials=here.dials, ties=here.ties)
            if "print" in source:
                found["printed"] = script.printed(np.asarray([0] if each == "once" else elements, np.int64)[:8])
    except FormulaError as error:
        found["error"] = error.details()
    except ReticulaError as error:
        found["error"] = {**error.details(), "line": 1, "column": 1, "length": 1}
    profiles = {c.name: profile_of(c.what, c.default) for c in known.controls if c.what in ("curve", "gradient")}
    plain = {c.name: c.default for c in known.controls if c.name not in profiles}
    scope = Scope(geo, kind, {**here.dials, **plain}, {**here.inputs, "geo": geo}, here.ties, profiles)
    found["names"], found["members"] = describe_names(scope), describe_members(scope)
    return found
