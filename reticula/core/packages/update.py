"""Another release of an operator taken in a graph: nothing that was set is lost."""

from __future__ import annotations

from copy import deepcopy
from typing import Any

from reticula.core.errors import GraphError
from reticula.core.graph.editing.formula_texts import free_name
from reticula.core.graph.editing.levels import level_of
from reticula.core.graph.structure.library import library, published_name

__all__ = ["update_release"]


def update_release(
    document: dict[str, Any], path: str, node: str, release: str, *, beside: bool = False
) -> tuple[dict[str, Any], str]:
    """Return the document with a node that runs another release, and the node's name.

    ``beside`` puts a copy that runs it next to the node instead. Values of dials and wires that the release does not
    have stay in the document, put by. Raises GraphError if there is no such release.
    """
    made = deepcopy(document)
    level = level_of(made, path)
    entry = level["nodes"].get(node)
    if entry is None:
        raise GraphError(f"there is no node '{node}'")
    name, _ = published_name(entry["operator"])
    if library().definition(f"{name}@{release}") is None:
        there = ", ".join(library().releases(name)) or "none"
        raise GraphError(f"there is no release {release} of '{name}'; there are {there}", node=node)
    if beside:
        copy = free_name(f"{node}_{release.replace('.', '_')}", level["nodes"])
        level["nodes"][copy] = {**deepcopy(entry), "title": f"{entry.get('title') or name.replace('_', ' ')} {release}"}
        level["nodes"][copy].pop("place", None)
        level["looking_at"] = copy
        node, entry = copy, level["nodes"][copy]
    entry["operator"] = f"{name}@{release}"
    entry.pop("left", None)
    definition = library().definition(entry["operator"])
    assert definition is not None
    known = {port["name"] for port in definition["graph"].get("inputs", [])}
    for port in [port for port in entry.get("inputs", {}) if port not in known]:
        entry.setdefault("parameters", {})[f"input {port}"] = {"feeds": entry["inputs"].pop(port)}
    return made, node
