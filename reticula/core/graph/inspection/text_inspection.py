"""What a text means where it stands in a graph, while it is being written: its error, its names, what it would give."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np

from reticula.core.errors import FormulaError, ReticulaError
from reticula.core.graph.evaluation.evaluator import Evaluation
from reticula.core.graph.inspection.text_place import TextAt, text_at
from reticula.core.language.completions import describe_members, describe_names, values_in_words
from reticula.core.language.controls import Declared, declared
from reticula.core.language.profiles import profile_of
from reticula.core.language.scope import Scope
from reticula.core.operators.declaration.parameters import OnElements, Selection
from reticula.core.operators.scripting.controls import Code, parameter_of

__all__ = ["inspect_text"]


def inspect_text(
    done: Evaluation, node: str, parameter: str, source: str, elements: Sequence[int] = ()
) -> dict[str, Any]:
    """Return what is known about ``source`` as the value of a node's parameter; the node's inputs must be evaluated.

    The node is one of the level that was evaluated.

    ``error`` with line, column and length, or none; ``names`` and ``members`` that can be written; ``result`` in words;
    for a script also its ``controls``, ``inputs`` and what it prints for ``elements``.
    """
    text = text_at(done, node, parameter, source)
    if isinstance(text.asked, Code):
        return _of_script(text, elements)
    return _of_formula(source, text)


def _of_formula(source: str, text: TextAt) -> dict[str, Any]:
    asked, here = text.asked, text.here
    kind, geo = text.elements_of()
    scope = text.scope()
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


def _of_script(text: TextAt, elements: Sequence[int]) -> dict[str, Any]:
    source, here = text.source, text.here
    kind, geo = text.elements_of()
    found: dict[str, Any] = {"error": None, "result": "", "controls": None, "inputs": None, "printed": []}
    known = Declared((), ())
    try:
        known = declared(source)
        found["controls"] = [parameter_of(control).describe() for control in known.controls]
        found["inputs"] = [
            {"name": entry.name, "help": entry.help, "many": False, "optional": True} for entry in known.inputs
        ]
        script = text.script()
        if "print" in source:
            once = here.values["each"] == "once"
            found["printed"] = script.printed(np.asarray([0] if once else elements, np.int64)[:8])
    except FormulaError as error:
        found["error"] = error.details()
    except ReticulaError as error:
        found["error"] = {**error.details(), "line": 1, "column": 1, "length": 1}
    profiles = {c.name: profile_of(c.what, c.default) for c in known.controls if c.what in ("curve", "gradient")}
    plain = {c.name: c.default for c in known.controls if c.name not in profiles}
    scope = Scope(geo, kind, {**here.dials, **plain}, {**here.inputs, "geo": geo}, here.ties, profiles)
    found["names"], found["members"] = describe_names(scope), describe_members(scope)
    return found
