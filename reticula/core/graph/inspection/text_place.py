"""Where a text stands in a graph: the parameter that it is for, what it may read, and the elements it runs on."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from typing import Any, cast

from reticula.core.diagnostics import collecting
from reticula.core.geometry import Geo
from reticula.core.geometry.edit.placement import in_space_of
from reticula.core.geometry.mesh.kinds import KINDS, Kind
from reticula.core.graph.evaluation.evaluator import Evaluation
from reticula.core.graph.evaluation.parameter_links import ParameterLinks
from reticula.core.graph.nesting.binding import substitute_dials
from reticula.core.graph.nesting.dials import DialParameter
from reticula.core.graph.nesting.graph_operator import operator_of
from reticula.core.language.before import asks_for_before
from reticula.core.language.controls import declared
from reticula.core.language.scope import Scope
from reticula.core.language.script import Script
from reticula.core.operators import Operator
from reticula.core.operators.declaration.parameters import Context, OnElements, Parameter, Selection, is_wire
from reticula.core.operators.scripting.controls import Code, Controls, Source, parameter_of

__all__ = ["FrameBefore", "TextAt", "nothing_before", "text_at"]


FrameBefore = Callable[[str], Geo | None]
"""Gives what a feed was one frame ago; None if there was nothing."""


def nothing_before(feed: str) -> Geo | None:
    """There was no frame before."""
    return None


@dataclass(frozen=True)
class TextAt:
    """A text as the value of a parameter of a node whose inputs are evaluated.

    ``asked`` is the parameter, ``here`` what it may read, ``feeds`` the wires of the node's inputs by port.
    """

    source: str
    chosen: Operator
    asked: Parameter
    here: Context
    feeds: Mapping[str, list[str]]

    @property
    def owner(self) -> str:
        """The input whose elements the text runs on."""
        return self.asked.of if isinstance(self.asked, OnElements) else "geo"

    def elements_of(self) -> tuple[Kind, Geo]:
        """Return the kind of element that the text runs on, and the geometry that has them; ``whole`` for once."""
        here = self.here
        if isinstance(self.asked, Code):
            each = here.values["each"]
            geo = here.inputs.get("geo") or Geo.empty()
            return ("whole" if each == "once" else "point" if each == "piece" else each), geo
        if not isinstance(self.asked, OnElements):
            return "whole", here.inputs.get("geo") or Geo.empty()
        kind = self.asked.on if self.asked.on in KINDS else here.values.get(self.asked.on, "point")
        return cast(Kind, kind), here.inputs.get(self.asked.of) or Geo.empty()

    def scope(self) -> Scope:
        """Return what a formula may read there."""
        kind, geo = self.elements_of()
        return Scope(geo, kind, self.here.dials, self.here.inputs, self.here.ties)

    def script(self, frame_before: FrameBefore = nothing_before) -> Script:
        """Return the text as a script with the values of its controls; raise FormulaError if it cannot run.

        ``frame_before`` is asked for what came in one frame ago, if the text reads anything of it.
        """
        here = self.here
        _, geo = self.elements_of()
        with collecting():
            text = replace(here, values={"source": Source(self.source, here.dials, here.ties)})
            controls = self.chosen.parameter("controls").resolve(here.values["controls"], text)
            each = here.values["each"]
            wires = self.feeds.get(self.owner, []) if asks_for_before(self.source) else []
            return Script(
                self.source,
                geo,
                each,
                inputs=here.inputs,
                controls=controls,
                dials=here.dials,
                ties=here.ties,
                before=frame_before(wires[0]) if wires else None,
            )


def text_at(done: Evaluation, node: str, parameter: str, source: str) -> TextAt:
    """Return where ``source`` stands as the value of a node's parameter, ``controls.NAME`` for one of a script."""
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
            inputs[port.name] = done.geo(wired[0]) if wired and done.has(wired[0]) else None
    first = next((geo for geo in inputs.values() if geo is not None), None)
    seen = {
        name: in_space_of(geo, first) if geo is not None and first is not None else geo for name, geo in inputs.items()
    }
    ties = ParameterLinks(document, dials).read_by(node, chosen, values)
    return TextAt(source, chosen, asked, Context(seen, dials, values, ties), feeds)


def _asked(chosen: Operator, parameter: str, values: Mapping[str, Any]) -> Parameter:
    """The parameter that a text is for; ``controls.NAME`` is a control that a script declares."""
    owner, _, control = parameter.partition(".")
    if control and isinstance(chosen.parameter(owner), Controls):
        for known in declared(values["source"]).controls:
            if known.name == control:
                return parameter_of(known)
    found = chosen.parameter(parameter)
    return found.inner if isinstance(found, DialParameter) else found
