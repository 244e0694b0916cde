"""What a text of a graph gives for one picked element, part by part, while it is being written."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np

from reticula.core.errors import FormulaError, ReticulaError
from reticula.core.geometry import Geo
from reticula.core.geometry.edit.placement import place_of
from reticula.core.geometry.mesh.kinds import Kind
from reticula.core.graph.evaluation.evaluator import Evaluation
from reticula.core.graph.inspection.picked_element import Picked, element_in
from reticula.core.graph.inspection.text_place import FrameBefore, TextAt, nothing_before, text_at
from reticula.core.graph.values.nodes_to_formula import line_name, value_feeds
from reticula.core.language.live import Block, Live, Mark, live_formula, live_script
from reticula.core.operators.scripting.controls import Code

__all__ = ["live_text", "live_wires", "run_text"]


def live_text(
    done: Evaluation,
    node: str,
    parameter: str,
    source: str,
    picked: Picked | None,
    frame_before: FrameBefore = nothing_before,
) -> dict[str, Any]:
    """Return what ``source`` gives as the value of a node's parameter for a picked element; inputs are evaluated.

    ``kind`` and ``element`` say on which element of the node's input it ran (None: ``missing`` says why none was
    found); ``block`` has all that was seen, ``result`` the value of a formula in words, ``error`` what stopped it,
    ``cut`` whether there was too much to note.
    """
    try:
        text = text_at(done, node, parameter, source)
        kind, element = element_of(done, text, picked)
    except ReticulaError as error:
        return {**_nothing("whole"), "error": error.details()}
    if element is None:
        return {**_nothing(kind), "missing": _missing(kind, picked)}
    try:
        live = run_text(text, element, frame_before)
    except ReticulaError as error:
        return {**_nothing(kind), "error": error.details()}
    return {
        "kind": kind,
        "element": element,
        "missing": "",
        "block": live.block.describe(),
        "result": live.result.text if live.result else "",
        "error": live.error,
        "cut": live.cut,
    }


def live_wires(done: Evaluation, picked: Picked | None) -> dict[str, str]:
    """Return the value on the wire of each value node that feeds a parameter of a node, for a picked element."""
    original = done.plan.original["nodes"]
    found: dict[str, str] = {}
    for name, node in done.document["nodes"].items():
        for parameter, source in value_feeds(original.get(name, {})).items():
            given = node.get("parameters", {}).get(parameter)
            if isinstance(given, dict) and isinstance(given.get("formula"), str):
                found = _values_on_wires(done, name, parameter, given["formula"], source, picked) | found
    return found


def _values_on_wires(
    done: Evaluation, name: str, parameter: str, formula: str, source: str, picked: Picked | None
) -> dict[str, str]:
    """The values of all nodes of a chain: each is a line of the formula that it writes, the last one the value."""
    try:
        text = text_at(done, name, parameter, formula)
        _, element = element_of(done, text, picked)
    except ReticulaError:
        return {}
    if element is None:
        return {}
    live = run_text(text, element)
    lines = formula.split("\n")
    named = {lines[number - 1].partition(" = ")[0]: told for number, told in live.block.lines.items()}
    found = {node: named[line_name(node)] for node in done.plan.original["nodes"] if line_name(node) in named}
    return {**found, source: live.result.text} if live.result else found


def element_of(done: Evaluation, text: TextAt, picked: Picked | None) -> tuple[Kind, int | None]:
    """Return the kind that a text runs on and the element that stands for the picked one; None if there is none."""
    kind, geo = text.elements_of()
    if kind == "whole":
        return kind, 0
    wires = text.feeds.get(text.owner, [])
    if picked is None or not wires:
        return kind, None
    element = element_in(done, picked, wires[0], kind)
    if element is not None and isinstance(text.asked, Code) and text.here.values["each"] == "piece":
        element = int(np.flatnonzero(geo.topology.point_piece == geo.topology.point_piece[element])[0])
    return kind, element


def run_text(text: TextAt, element: int, frame_before: FrameBefore = nothing_before) -> Live:
    """Run a text on one element; what questions found is brought into the world."""
    if not isinstance(text.asked, Code):
        scope = text.scope()
        return _in_world(live_formula(text.source, scope, element), scope.geo)
    try:
        script = text.script(frame_before)
    except FormulaError as error:
        return Live(Block(), error=error.details())
    return _in_world(live_script(script, element), script.geo)


def _in_world(live: Live, geo: Geo) -> Live:
    matrix = place_of(geo)
    if not np.array_equal(matrix, np.eye(4)):
        for block in live.block.every():
            block.marks = [_moved(mark, matrix) for mark in block.marks]
    return live


def _moved(mark: Mark, matrix: np.ndarray[Any, Any]) -> Mark:
    places = np.array([mark.begin, *mark.ends]) @ matrix[:3, :3].T + matrix[:3, 3]
    begin, *ends = [(float(x), float(y), float(z)) for x, y, z in places.tolist()]
    return replace(mark, begin=begin, ends=tuple(ends))


def _nothing(kind: Kind) -> dict[str, Any]:
    none: dict[str, Any] = {"kind": kind, "element": None, "missing": "", "block": Block().describe()}
    return {**none, "result": "", "error": None, "cut": False}


def _missing(kind: Kind, picked: Picked | None) -> str:
    if picked is None:
        return f"pick a {kind} in the view or the ledger to see its values here"
    return f"the picked {picked.kind} is not among what this text runs on, and came from nothing that is"
