"""A graph or a package with its dials as controls: what it makes is evaluated in the kernel and shown."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from contextlib import ExitStack
from pathlib import Path
from typing import Any

import traitlets

from reticula.core.context import using
from reticula.core.diagnostics import collecting
from reticula.core.errors import GraphError, ReticulaError
from reticula.core.geometry import Geo
from reticula.core.graph import Evaluator, check_structure
from reticula.core.graph.nesting.dial_types import usual_value
from reticula.core.graph.structure.document import Document, chosen_node
from reticula.core.graph.structure.library import LayeredLibrary
from reticula.core.graph.time.tables import is_timed
from reticula.core.operators.shared.resources import DiskResources
from reticula.core.packages import Package
from reticula.core.packages.as_document import OPERATOR, document_of
from reticula.core.packages.package import PackagedShapes
from reticula.notebook.view import View

__all__ = ["Controls", "controls"]

SHOWN_AS = {
    "number": "number",
    "integer": "integer",
    "toggle": "flag",
    "choice": "choice",
    "text": "text",
    "vector": "vector",
    "color": "vector",
}
"""Types of dials that have a control; the others keep what they are set to."""


class Controls(View):
    """A picture of what a graph or a package makes, under its dials. ``geo`` is what it made last, ``notes`` what was
    found on the way.
    """

    def __init__(self, source: Document | Package, inputs: Mapping[str, Geo], node: str, **given: Any) -> None:
        self._package = source if isinstance(source, Package) else None
        self._document = document_of(source, inputs) if isinstance(source, Package) else dict(check_structure(source))
        self._inputs = dict(inputs)
        self._node = OPERATOR + (f":{node}" if node else "") if self._package else chosen_node(self._document, node)
        self._evaluator = Evaluator()
        self.geo = Geo.empty()
        self.notes: list[str] = []
        super().__init__([], **given)
        graph = source.definitions[source.main]["graph"] if isinstance(source, Package) else source
        self.set_trait("dials", _told(graph, usual_value if self._package else _set_value))
        self._evaluate()

    @traitlets.observe("values")
    def _turned(self, change: Any) -> None:
        if self.dials:
            self._evaluate()

    def _evaluate(self) -> None:
        """Make it anew, only what the values concern; what goes wrong is shown above the picture that was."""
        document, dials = self._document, dict(self.values)
        if self._package:
            nodes = {**document["nodes"], OPERATOR: {**document["nodes"][OPERATOR], "parameters": dials}}
            document, dials = {**document, "nodes": nodes}, {}
        shapes: Any = DiskResources({}, Path.cwd())
        try:
            with ExitStack() as stack:
                notes = stack.enter_context(collecting())
                if self._package:
                    stack.enter_context(using(library=LayeredLibrary(self._package)))
                    shapes = PackagedShapes(self._package, shapes)
                done = self._evaluator.evaluate(
                    document, dials=dials, targets=[self._node], inputs=self._inputs, shapes=shapes
                )
                self.geo = done.geo(self._node)
            found = [*notes, *(note for result in done.nodes.values() for note in result.notes)]
            self.notes = [note.text for note in found if note.level == "warning"]
            self.trouble = ""
        except ReticulaError as error:
            self.trouble = str(error)
            return
        self.set_geometries([self.geo])


def _set_value(dial: Mapping[str, Any]) -> Any:
    """Return what a dial of a graph is set to."""
    return dial["value"]


def _told(graph: Mapping[str, Any], value_of: Callable[[Mapping[str, Any]], Any]) -> list[dict[str, Any]]:
    """Return the dials that have a control, as the page is told them."""
    made = []
    for name, dial in graph.get("dials", {}).items():
        value = value_of(dial)
        if dial["type"] not in SHOWN_AS or is_timed(value):
            continue
        told = {"name": name, "type": SHOWN_AS[dial["type"]], "value": value}
        told |= {key: dial[key] for key in ("low", "high", "step") if dial.get(key) is not None}
        options = dial.get("options")
        if options:
            told["options"] = list(options)
        made.append({**told, "unit": dial.get("unit", ""), "help": dial.get("help", "")})
    return made


def controls(
    source: Document | Package, *geometries: Geo, node: str = "", height: int = 360, **inputs: Geo
) -> Controls:
    """Show a graph or a package with its dials as controls; it runs in the kernel.

    Parameters
    ----------
    source : dict or Package
        A graph document, or what ``load_package`` gives.
    *geometries : Geo
        What comes in, in the order of its inputs; others by name.
    node : str
        Whose result is shown, or which output of a package; usually that of the graph, or the first one.
    height : int
        Height of the picture, px.

    Returns
    -------
    Controls
        The widget; its ``geo`` is what was made last.

    Raises
    ------
    GraphError
        If an input is missing, or there are too many.
    """
    names = _inputs_of(source)
    if len(geometries) > len(names):
        raise GraphError(f"there are {len(names)} inputs ({', '.join(names) or 'none'}), not {len(geometries)}")
    given = {**dict(zip(names, geometries, strict=False)), **inputs}
    unknown = [name for name in given if name not in names]
    if unknown:
        raise GraphError(f"there is no input '{unknown[0]}'; there are {', '.join(names) or 'none'}")
    return Controls(source, given, node, height=height)


def _inputs_of(source: Document | Package) -> Sequence[str]:
    if isinstance(source, Package):
        return [port.name for port in source.operator.inputs]
    return [entry["name"] for entry in source.get("inputs", [])]
