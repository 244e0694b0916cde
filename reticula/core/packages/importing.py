"""Taking in a package: what is new, and what collides under another name where that is wanted."""

from __future__ import annotations

from collections.abc import Mapping
from copy import deepcopy
from itertools import chain
from typing import Any

from reticula.core.errors import GraphError
from reticula.core.graph.structure.library import library
from reticula.core.packages.definition import definition_digest, nodes_of
from reticula.core.packages.package import Package
from reticula.core.packages.review import other_names, review

__all__ = ["merge_package"]


def merge_package(package: Package, choices: Mapping[str, str]) -> tuple[list[dict[str, Any]], list[str]]:
    """Return the definitions to add, each after those it uses, and the operators that stay as they are here.

    ``choices`` says of each operator that collides with one in the library in use: ``keep`` what is there, or bring the
    other one ``beside`` it under another name; what uses it in the package then names that. Raises GraphError where a
    choice is missing. What was brought beside before is found again: the same package taken in twice adds nothing.
    """
    renamed: dict[str, str] = {}
    kept: list[str] = []
    made: list[dict[str, Any]] = []
    names = {operator.partition("@")[0] for operator in package.definitions}
    for entry in review(package):
        choice = choices.get(entry.operator)
        if entry.state == "collides" and choice not in ("keep", "beside"):
            raise GraphError(f"there is another '{entry.operator}' here; say which to keep, or both side by side")
        if entry.state == "there already" or (entry.state == "collides" and choice == "keep"):
            kept.append(entry.operator)
            continue
        definition = _renamed(package.definitions[entry.operator], renamed)
        if entry.state == "collides":
            name = _name_beside(definition, names)
            if name != definition["name"]:
                renamed[entry.operator] = f"{name}@{definition['release']}"
            definition["name"] = name
        operator = f"{definition['name']}@{definition['release']}"
        if entry.state == "collides" and library().definition(operator) is not None:
            kept.append(operator)
            continue
        names.add(definition["name"])
        made.append(definition)
    return made, kept


def _renamed(definition: Mapping[str, Any], renamed: Mapping[str, str]) -> dict[str, Any]:
    """A copy of a definition that uses operators by the names that they get here."""
    made = deepcopy(dict(definition))
    for graph in (made["graph"], *(example["graph"] for example in made.get("examples", []))):
        for node in nodes_of(graph):
            node["operator"] = renamed.get(node["operator"], node["operator"])
    return made


def _name_beside(definition: Mapping[str, Any], taken: set[str]) -> str:
    """The name under which the very same was taken in before, or else a free one; ``taken`` are in the package."""
    for name in chain([definition["name"]], other_names(definition["name"])):
        there = library().definition(f"{name}@{definition['release']}")
        if there is not None and definition_digest(there) == definition_digest({**definition, "name": name}):
            return str(name)
        if there is None and name not in taken and not library().releases(name):
            return name
    raise AssertionError("there are always more names")
