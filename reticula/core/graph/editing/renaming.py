"""Names changed, with all that refers to them: nodes, dials, inputs and outputs."""

from __future__ import annotations

from copy import deepcopy
from functools import partial
from typing import Any

from reticula.core.errors import GraphError
from reticula.core.graph.editing.formula_texts import free_name, map_feeds, members_of, replace_in, slug
from reticula.core.graph.editing.levels import level_of
from reticula.core.graph.structure.document import split_feed
from reticula.core.graph.structure.linked import holders_of
from reticula.core.operators.declaration.parameters import is_wire
from reticula.core.operators.declaration.parameters.conditions import NAME
from reticula.core.operators.shared.nested_graph import LOOP_NAMES

__all__ = ["rename_dial", "rename_node", "rename_port"]


def rename_node(document: dict[str, Any], path: str, node: str, title: str) -> tuple[dict[str, Any], str]:
    """Return the document with a node titled anew, and its name made from the title; wires and ties follow."""
    made = deepcopy(document)
    level = level_of(made, path)
    if node not in level["nodes"]:
        raise GraphError(f"there is no node '{node}'", node=node)
    new = free_name(slug(title, node), set(level["nodes"]) - {node}) if title.strip() else node
    level["nodes"] = {new if key == node else key: value for key, value in level["nodes"].items()}
    level["nodes"][new]["title"] = title.strip()
    if new == node:
        return made, node
    map_feeds(level, lambda feed: new + feed[len(node) :] if split_feed(feed)[0] == node else feed)
    for key, entry in level["nodes"].items():
        for value in entry.get("parameters", {}).values():
            if is_wire(value) and value["wire"] == node:
                value["wire"] = new
        pairs = {
            pair: f"{new}.{pair[1]}"
            for pair in members_of(entry)
            if pair[0] == node and node not in entry.get("inputs", {})
        }
        replace_in(entry, {}, pairs if key != new else {})
    for frame in level.get("frames", {}).values():
        frame["nodes"] = [new if name == node else name for name in frame["nodes"]]
    for jump, target in list(level.get("jumps", {}).items()):
        level["jumps"][jump] = new if target == node else target
    return made, new


def _check(new: str, taken: Any, what: str) -> None:
    if not NAME.match(new) or len(new) > 64:
        raise GraphError(f"'{new}' is not a name: use letters, digits and _, not starting with a digit")
    if new in taken:
        raise GraphError(f"there is {what} '{new}' already")
    if new in LOOP_NAMES and what == "a dial":
        raise GraphError(f"a dial cannot be called '{new}': inside of loops that is {LOOP_NAMES[new]}")


def rename_dial(document: dict[str, Any], path: str, dial: str, new: str) -> dict[str, Any]:
    """Return the document with a dial renamed: what reads it, what is bound to it, its values and presets follow."""
    made = deepcopy(document)
    level = level_of(made, path)
    dials = level.get("dials", {})
    if dial not in dials:
        raise GraphError(f"there is no dial '{dial}'")
    if new == dial:
        return made
    _check(new, dials, "a dial")
    level["dials"] = {new if key == dial else key: value for key, value in dials.items()}
    for entry in level["dials"].values():
        if entry.get("shown_when", {}).get("dial") == dial:
            entry["shown_when"]["dial"] = new
    for preset in level.get("presets", {}).values():
        if dial in preset:
            preset[new] = preset.pop(dial)
    for node in level["nodes"].values():
        replace_in(node, {dial: new}, {})
        _rebind(node.get("parameters", {}), dial, new)
    for outer, holder in holders_of(made, level):
        parameters = outer["nodes"][holder].get("parameters", {})
        if dial in parameters:
            parameters[new] = parameters.pop(dial)
        for key, node in outer["nodes"].items():
            if key != holder and holder not in node.get("inputs", {}):
                replace_in(node, {}, {(holder, dial): f"{holder}.{new}"})
    return made


def _rebind(values: dict[str, Any], dial: str, new: str) -> None:
    for key, value in values.items():
        if isinstance(value, dict):
            if value == {"dial": dial}:
                values[key] = {"dial": new}
            else:
                _rebind(value, dial, new)


def rename_port(document: dict[str, Any], path: str, side: str, port: str, new: str) -> dict[str, Any]:
    """Return the document with an input or output (``side``: inputs, outputs) of a graph renamed; wires follow."""
    made = deepcopy(document)
    level = level_of(made, path)
    entries = level.get(side, [])
    found = next((entry for entry in entries if entry["name"] == port), None)
    if found is None:
        raise GraphError(f"there is no {side[:-1]} '{port}'")
    if new == port:
        return made
    _check(new, {entry["name"] for entry in entries}, "an " + side[:-1])
    found["name"] = new
    singular = side[:-1]
    for condition in level.get("contracts", []):
        if condition.get(singular) == port:
            condition[singular] = new
    if side == "inputs":
        for node in level["nodes"].values():
            if node["operator"] == "input" and node.get("parameters", {}).get("name", "geo") == port:
                node.setdefault("parameters", {})["name"] = new
        for dial in level.get("dials", {}).values():
            if dial.get("of") == port:
                dial["of"] = new
    for outer, holder in holders_of(made, level):
        if side == "inputs" and port in outer["nodes"][holder].get("inputs", {}):
            inputs = outer["nodes"][holder]["inputs"]
            inputs[new] = inputs.pop(port)
        if side == "outputs":
            pair = {f"{holder}:{port}": f"{holder}:{new}"}
            map_feeds(outer, partial(_replaced, pair))
    return made


def _replaced(pairs: dict[str, str], feed: str) -> str:
    return pairs.get(feed, feed)
