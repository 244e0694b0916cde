"""A document at one moment: plain values in place of those with keys and those that follow tables, at every depth."""

from __future__ import annotations

from collections.abc import Mapping
from contextlib import suppress
from typing import Any

from reticula.core.context import Library
from reticula.core.errors import GraphError, ParameterError
from reticula.core.graph.nesting.dial_types import check_following, parameter_of_dial
from reticula.core.graph.nesting.graph_operator import operator_of
from reticula.core.graph.structure.document import Document
from reticula.core.graph.time.keys import has_keyed, without_keys
from reticula.core.graph.time.tables import following_of, is_following, is_timed, log_of
from reticula.core.operators.declaration.parameters import Blend, Parameter
from reticula.core.operators.scripting.controls import Controls, declared_or_none, parameter_of

__all__ = ["LibraryAtFrame", "dial_varies", "document_at", "node_varies", "varies"]

Moment = Mapping[str, float]
"""What formulas read of time."""


def varies(document: Document) -> bool:
    """Whether any value of a document, at any depth, has keys or follows a table."""
    if any(map(dial_varies, document.get("dials", {}).values())):
        return True
    return any(node_varies(node) for node in document["nodes"].values())


def dial_varies(dial: Mapping[str, Any]) -> bool:
    """Whether the value of a dial has keys or follows a table."""
    return is_timed(dial.get("value"))


def node_varies(node: Mapping[str, Any]) -> bool:
    """Whether any value of a node has keys, or any of the graph in it varies."""
    return any(map(has_keyed, node.get("parameters", {}).values())) or ("graph" in node and varies(node["graph"]))


def document_at(document: Document, moment: Moment) -> Document:
    """Return the document with the values that its keys and tables have at a moment; itself if nothing varies.

    Keys that cannot be are left as they are, for whoever checks the document to say so; a dial whose table cannot be
    read keeps what follows it, with the ``trouble``. What there is to be said of a table stands at its dial, ``told``.
    """
    if not varies(document):
        return document
    dials = {name: _dial_at(name, dial, moment) for name, dial in document.get("dials", {}).items()}
    nodes = {name: _node_at(node, moment) for name, node in document["nodes"].items()}
    return {**document, "dials": dials, "nodes": nodes}


def _dial_at(name: str, dial: Mapping[str, Any], moment: Moment) -> Mapping[str, Any]:
    stored = dial["value"]
    if is_following(stored):
        return _followed(name, dial, moment)
    with suppress(ParameterError, GraphError):
        value = without_keys(
            name, stored, lambda _, keys: keys.at(moment["frame"], parameter_of_dial(name, dial).blend)
        )
        return dial if value is stored else {**_without_default(dial), "value": value}
    return dial


def _without_default(dial: Mapping[str, Any]) -> dict[str, Any]:
    """A dial that varies has its value where nothing is set; what reset goes back to would stand before it."""
    return {key: value for key, value in dial.items() if key != "default"}


def _followed(name: str, dial: Mapping[str, Any], moment: Moment) -> Mapping[str, Any]:
    stored = dial["value"]
    try:
        check_following(name, dial)
        following = following_of(name, stored)
        log = log_of(name, following)
        value = following.at(log, moment, parameter_of_dial(name, dial).blend)
    except (ParameterError, GraphError) as error:
        return {**dial, "value": {**stored, "trouble": str(error).removeprefix(f"{name}: ")}}
    told = [f"The table '{following.table}' has rows {text}." for text in log.said]
    return {**_without_default(dial), "value": value, **({"told": told} if told else {})}


def _node_at(node: Mapping[str, Any], moment: Moment) -> Mapping[str, Any]:
    if not node_varies(node):
        return node
    made = dict(node)
    if "graph" in node:
        made["graph"] = document_at(node["graph"], moment)
    parameters = node.get("parameters", {})
    with suppress(ParameterError, GraphError):
        declared = {entry.name: entry for entry in operator_of(made).parameters}
        made["parameters"] = {
            key: _value_at(key, value, declared.get(key), parameters, moment["frame"])
            for key, value in parameters.items()
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
    """Published operators as they are at one moment. See :class:`Library`."""

    def __init__(self, library: Library, moment: Moment) -> None:
        self._library, self._moment = library, moment
        self._made: dict[str, Mapping[str, Any] | None] = {}

    def definition(self, operator: str) -> Mapping[str, Any] | None:
        if operator not in self._made:
            found = self._library.definition(operator)
            if found is not None and varies(found["graph"]):
                found = {**found, "graph": document_at(found["graph"], self._moment)}
            self._made[operator] = found
        return self._made[operator]

    def releases(self, name: str) -> list[str]:
        return self._library.releases(name)
