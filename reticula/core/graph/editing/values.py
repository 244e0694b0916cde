"""Values given from outside: dials by their name, parameters of nodes as ``NODE.PARAMETER``."""

from __future__ import annotations

import json
from collections.abc import Mapping
from copy import copy
from typing import Any

from reticula.core.errors import GraphError
from reticula.core.graph.structure.document import Document

__all__ = ["value_of_text", "with_values"]


def value_of_text(text: str) -> Any:
    """Return what a text from outside stands for: JSON if it is that, else itself."""
    try:
        return json.loads(text)
    except ValueError:
        return text


def with_values(document: Document, values: Mapping[str, Any]) -> tuple[dict[str, Any], dict[str, Any]]:
    """Return a document with some parameters of its nodes set, and the values that are for its dials.

    The document given stays as it is. Raises GraphError for a node or dial that is not there.
    """
    made, dials = copy(dict(document)), {}
    for name, value in values.items():
        node, dot, parameter = name.partition(".")
        if not dot:
            if name not in document.get("dials", {}):
                there = ", ".join(document.get("dials", {})) or "none"
                raise GraphError(f"no dial '{name}'; the graph has {there}; parameters are NODE.PARAMETER")
            dials[name] = value
        elif node not in document["nodes"]:
            raise GraphError(f"there is no node '{node}'; there are {', '.join(document['nodes'])}")
        else:
            entry = made["nodes"][node]
            set_one = {**entry, "parameters": {**entry.get("parameters", {}), parameter: value}}
            made = {**made, "nodes": {**made["nodes"], node: set_one}}
    return made, dials
