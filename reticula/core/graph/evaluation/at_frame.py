"""A document at one frame: plain values in place of those with keys, at every depth."""

from __future__ import annotations

from collections.abc import Mapping
from contextlib import suppress
from typing import Any

from reticula.core.context import Library
from reticula.core.errors import GraphError, ParameterError
from reticula.core.graph.nesting.dial_types import parameter_of_dial
from reticula.core.graph.nesting.graph_operator import operator_of
from reticula.core.graph.structure.document import Document
from reticula.core.graph.time.keys import has_keyed, is_keyed, without_keys
from reticula.core.operators.declaration.parameters import Blend, Parameter
from reticula.core.operators.scripting.controls import Controls, declared_or_none, parameter_of

__all__ = ["LibraryAtFrame", "document_at", "has_keys", "node_has_keys"]


def has_keys(document: Document) -> bool:
    """Whether any value of a document, at any depth, has keys."""
    if any(is_keyed(dial.get("value")) for dial in document.get("dials", {}).values()):
        return True
    return any(node_has_keys(node) for node in document["nodes"].values())


def node_has_keys(node: Mapping[str, Any]) -> bool:
    """Whether any value of a node, or of the graph in it, has keys."""
    return any(map(has_keyed, node.get("parameters", {}).values())) or ("graph" in node and has_keys(node["graph"]))


def document_at(document: Document, frame: float) -> Document:
    """Return the document with the values that its keys have at a frame; itself if it has no keys.

    Keys that cannot be are left as they are, for whoever checks the document to say so.
    """
    if not has_keys(document):
        return document
    dials = {name: _dial_at(name, dial, frame) for name, dial in document.get("dials", {}).items()}
    nodes = {name: _node_at(node, frame) for name, node in document["nodes"].items()}
    return {**document, "dials": dials, "nodes": nodes}


def _dial_at(name: str, dial: Mapping[str, Any], frame: float) -> Mapping[str, Any]:
    stored = dial["value"]
    with suppress(ParameterError, GraphError):
        value = without_keys(name, stored, lambda _, keys: keys.at(frame, parameter_of_dial(name, dial).blend))
        return dial if value is stored else {**dial, "value": value}
    return dial


def _node_at(node: Mapping[str, Any], frame: float) -> Mapping[str, Any]:
    if not node_has_keys(node):
        return node
    made = dict(node)
    if "graph" in node:
        made["graph"] = document_at(node["graph"], frame)
    parameters = node.get("parameters", {})
    with suppress(ParameterError, GraphError):
        declared = {entry.name: entry for entry in operator_of(made).parameters}
        made["parameters"] = {
            key: _value_at(key, value, declared.get(key), parameters, frame) for key, value in parameters.items()
        }
    return made


def _value_at(name: str, value: Any, parameter: Parameter | None, siblings: Mapping[str, Any], frame: float) -> Any:
    if not has_keyed(value):
        return value
    blends = _blends(parameter, siblings)
    return without_keys(name, value, lambda keyed, keys: keys.at(frame, blends.get(keyed, "hold")))


def _blends(parameter: Parameter | None, siblings: Mapping[str, Any]) -> dict[str, Blend]:
    """How values go from key to key: of the parameter, or of each control of a script."""
    if not isinstance(parameter, Controls):
        return {parameter.name: parameter.blend} if parameter else {}
    declared = declared_or_none(siblings.get(parameter.of))
    return {control.name: parameter_of(control).blend for control in declared.controls} if declared else {}


class LibraryAtFrame:
    """Published operators as they are at one frame. See :class:`Library`."""

    def __init__(self, library: Library, frame: float) -> None:
        self._library, self._frame = library, frame
        self._made: dict[str, Mapping[str, Any] | None] = {}

    def definition(self, operator: str) -> Mapping[str, Any] | None:
        if operator not in self._made:
            found = self._library.definition(operator)
            if found is not None and has_keys(found["graph"]):
                found = {**found, "graph": document_at(found["graph"], self._frame)}
            self._made[operator] = found
        return self._made[operator]

    def releases(self, name: str) -> list[str]:
        return self._library.releases(name)
