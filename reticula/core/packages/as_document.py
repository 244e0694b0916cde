"""A graph of a package's operator alone, so that it is evaluated, kept and asked as any graph is."""

from __future__ import annotations

from collections.abc import Collection
from typing import Any

from reticula.core.errors import GraphError
from reticula.core.graph.structure.document import empty_document
from reticula.core.packages.package import Package

__all__ = ["OPERATOR", "document_of"]

OPERATOR = "operator"
"""The node that is the package's operator."""


def document_of(package: Package, given: Collection[str]) -> dict[str, Any]:
    """Return a graph with the operator, and an input node for each of its inputs that is ``given``.

    Raises GraphError if one that is needed is not.
    """
    chosen = package.operator
    missing = [port.name for port in chosen.inputs if not port.optional and port.name not in given]
    if missing:
        raise GraphError(f"{chosen.label} needs a mesh for '{missing[0]}'")
    names = [port.name for port in chosen.inputs if port.name in given]
    nodes: dict[str, Any] = {f"in_{name}": {"operator": "input", "parameters": {"name": name}} for name in names}
    nodes[OPERATOR] = {"operator": package.main, "inputs": {name: [f"in_{name}"] for name in names}}
    return {**empty_document(chosen.label), "inputs": [{"name": name} for name in names], "nodes": nodes}
