"""Parameters made dials, at any depth, and set free again."""

from __future__ import annotations

from copy import deepcopy
from typing import Any

from reticula.core.errors import GraphError
from reticula.core.graph.editing.formula_texts import free_name, names_of, slug
from reticula.core.graph.editing.levels import level_of, parent_of, steps_of
from reticula.core.graph.nesting.binding import is_bound
from reticula.core.graph.nesting.dials import bound_dial
from reticula.core.graph.nesting.graph_operator import operator_of
from reticula.core.operators import Operator
from reticula.core.operators.declaration.parameters import Parameter
from reticula.core.operators.scripting.controls import declared_or_none, parameter_of
from reticula.core.operators.shared.nested_graph import LOOP_NAMES

__all__ = ["add_dial", "make_dial", "parameter_at", "unbind_parameter"]


def parameter_at(node: dict[str, Any], name: str) -> tuple[Operator, Parameter, Any]:
    """Return a node's operator, a parameter (``controls.reach``: a control of its script) and what it holds."""
    chosen = operator_of(node)
    parameters = node.get("parameters", {})
    owner, _, control = name.partition(".")
    if control:
        known = declared_or_none(parameters.get("source", chosen.parameter("source").default))
        for entry in known.controls if known else ():
            if entry.name == control:
                return chosen, parameter_of(entry), parameters.get(owner, {}).get(control, entry.default)
        raise GraphError(f"the text declares no control '{control}'", parameter=name)
    found = chosen.parameter(name)
    return chosen, found, parameters.get(name, found.default)


def make_dial(
    document: dict[str, Any], path: str, node: str, parameter: str, name: str = "", up: int = 0
) -> tuple[dict[str, Any], str]:
    """Return the document with a parameter bound to a new dial of its graph, and the dial's name.

    ``up`` levels further out get a dial of their own that drives it. If there is a dial ``name`` already, the parameter
    is bound to that. Raises GraphError where there is no such node, or the parameter can be no dial.
    """
    made = deepcopy(document)
    level = level_of(made, path)
    if node not in level["nodes"]:
        raise GraphError(f"there is no node '{node}'", node=node)
    wanted = add_dial(level, node, parameter, name)
    steps = steps_of(path)
    if up > len(steps):
        raise GraphError(f"there are only {len(steps)} graphs around this one")
    inner = wanted
    for depth in range(up):
        outer = level_of(made, "/".join(steps[: len(steps) - 1 - depth]))
        inner = add_dial(outer, steps[len(steps) - 1 - depth], inner, name)
    return made, inner


def add_dial(level: dict[str, Any], node: str, parameter: str, name: str = "") -> str:
    """Bind a parameter to a dial of ``level``, made if need be (changes the document); returns the dial's name."""
    entry = level["nodes"][node]
    if entry["operator"] == "input":
        raise GraphError("which input a card stands for cannot be a dial", node=node, parameter=parameter)
    chosen, declared, value = parameter_at(entry, parameter)
    if is_bound(value):
        return str(value["dial"])
    dials = level.setdefault("dials", {})
    if not name or name not in dials:
        attributes = {found for one in level["nodes"].values() for found in names_of(one)}
        plain = slug(name or parameter.rpartition(".")[2])
        own = {one.name for one in chosen.parameters} if name else set()
        name = free_name(plain, {*dials, *LOOP_NAMES, *(attributes - own - {plain})})
        inputs = [one["name"] for one in level.get("inputs", [])] or ["geo"]
        siblings = chosen.check({key: one for key, one in entry.get("parameters", {}).items() if _is_plain(one)})
        dials[name] = bound_dial(declared, value, siblings, inputs[0])
    owner, _, control = parameter.partition(".")
    parameters = entry.setdefault("parameters", {})
    if control:
        parameters[owner] = {**parameters.get(owner, {}), control: {"dial": name}}
    else:
        parameters[owner] = {"dial": name}
    return name


def _is_plain(value: Any) -> bool:
    return not isinstance(value, dict)


def unbind_parameter(document: dict[str, Any], path: str, node: str, parameter: str) -> dict[str, Any]:
    """Return the document with a bound parameter holding the dial's value itself; the dial stays."""
    made = deepcopy(document)
    level = level_of(made, path)
    _, _, value = parameter_at(level["nodes"][node], parameter)
    if not is_bound(value):
        raise GraphError(f"'{parameter}' is bound to no dial", node=node, parameter=parameter)
    dial = level["dials"][value["dial"]]
    around = parent_of(made, path)
    outer = around[0]["nodes"][around[1]].get("parameters", {}).get(value["dial"]) if around else None
    plain = deepcopy(outer if outer is not None and not isinstance(outer, dict) else dial["value"])
    owner, _, control = parameter.partition(".")
    parameters = level["nodes"][node]["parameters"]
    if control:
        parameters[owner][control] = plain
    else:
        parameters[owner] = plain
    return made
