"""Ties between parameters: one made to follow another, and who follows whom."""

from __future__ import annotations

from copy import deepcopy
from typing import Any

from reticula.core.errors import GraphError
from reticula.core.graph.editing.dials import parameter_at
from reticula.core.graph.editing.formula_texts import members_of
from reticula.core.graph.editing.levels import level_of
from reticula.core.graph.evaluation.parameter_links import ParameterLinks
from reticula.core.graph.nesting.dials import dial_values
from reticula.core.operators.declaration.parameters import PerElement, Vector

__all__ = ["followers", "link_parameter"]


def link_parameter(
    document: dict[str, Any], path: str, node: str, parameter: str, follows: str, of: str
) -> dict[str, Any]:
    """Return the document with a parameter that follows ``of``, a parameter of the node ``follows`` in the same graph.

    Raises GraphError if it takes no formula, if that would be a circle (with its path), or if the other one has no
    value that can be followed.
    """
    made = deepcopy(document)
    level = level_of(made, path)
    for name in (node, follows):
        if name not in level["nodes"]:
            raise GraphError(f"there is no node '{name}'", node=name)
    chosen, declared, _ = parameter_at(level["nodes"][node], parameter)
    if not declared.describe()["takes_wire"]:
        raise GraphError(
            f"'{declared.label}' takes no formula, so it can follow nothing", node=node, parameter=parameter
        )
    if (node, parameter) == (follows, of):
        raise GraphError("a parameter cannot follow itself", node=node, parameter=parameter)
    _, other, held = parameter_at(level["nodes"][follows], of)
    text = f"{follows}.{of}"
    if isinstance(other, (Vector, PerElement)) and isinstance(held, list) and not isinstance(declared, Vector):
        text += ".x" if getattr(declared, "type", "number") == "number" else ""
    level["nodes"][node].setdefault("parameters", {})[parameter] = {"formula": text}
    ties = ParameterLinks(level, dial_values(level))
    found = ties.resolve(frozenset({(follows, of)}), (node, f"{node}.{parameter}"), chosen)
    if of not in found.get(follows, {}):
        raise GraphError(f"'{follows}.{of}' has no plain value that could be followed", node=follows, parameter=of)
    return made


def followers(level: dict[str, Any]) -> dict[str, dict[str, list[str]]]:
    """Return who follows the parameters of a graph's nodes: by node and parameter, the nodes whose formulas read it."""
    found: dict[str, dict[str, list[str]]] = {}
    for name, node in level["nodes"].items():
        for other, parameter in sorted(members_of(node)):
            if other in level["nodes"] and other != name and other not in node.get("inputs", {}):
                found.setdefault(other, {}).setdefault(parameter, []).append(name)
    return found
