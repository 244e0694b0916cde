"""Taking in a package: what is new, and what collides under another name where that is wanted."""

from __future__ import annotations

from collections.abc import Mapping
from copy import deepcopy
from typing import Any

from reticula.core.errors import GraphError
from reticula.core.packages.definition import nodes_of
from reticula.core.packages.package import Package
from reticula.core.packages.review import review

__all__ = ["merge_package"]


def merge_package(package: Package, choices: Mapping[str, str]) -> tuple[list[dict[str, Any]], list[str]]:
    """Return the definitions to add, each after those it uses, and the operators that stay as they are here.

    ``choices`` says of each operator that collides with one in the library in use: ``keep`` what is there, or bring the
    other one ``beside`` it under another name; what uses it in the package then names that. Raises GraphError where a
    choice is missing.
    """
    renamed: dict[str, str] = {}
    kept: list[str] = []
    reviews = review(package)
    for entry in reviews:
        if entry.state == "there already":
            kept.append(entry.operator)
        elif entry.state == "collides":
            choice = choices.get(entry.operator)
            if choice not in ("keep", "beside"):
                raise GraphError(f"there is another '{entry.operator}' here; say which to keep, or both side by side")
            if choice == "keep":
                kept.append(entry.operator)
            else:
                renamed[entry.operator] = f"{entry.other_name}@{entry.operator.partition('@')[2]}"
    made = []
    for entry in reviews:
        if entry.operator in kept:
            continue
        definition = deepcopy(dict(package.definitions[entry.operator]))
        if entry.operator in renamed:
            definition["name"] = renamed[entry.operator].partition("@")[0]
        for graph in (definition["graph"], *(example["graph"] for example in definition.get("examples", []))):
            for node in nodes_of(graph):
                node["operator"] = renamed.get(node["operator"], node["operator"])
        made.append(definition)
    return made, kept
