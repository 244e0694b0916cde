"""Parts of a geometry on their way to other processes, and what comes back of them."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from reticula.core.context import KeyedGeo
from reticula.core.geometry import Geo
from reticula.core.graph.structure.document import Document
from reticula.core.graph.structure.library import library, references

__all__ = ["Bundle", "Made", "Shared", "definitions"]


@dataclass(frozen=True)
class Shared:
    """What is the same for all parts: the ``graph`` that runs on each with the ``library`` of what it uses, its dials,
    the ``moment``, and what comes in besides. ``first`` is the input at which parts come in, ``node`` what holds the
    graph, at the end of ``path``.
    """

    graph: Document
    library: Mapping[str, Mapping[str, Any]]
    dials: Mapping[str, Any]
    moment: Mapping[str, float]
    given: Mapping[str, KeyedGeo]
    first: str
    node: str
    path: tuple[str, ...]


@dataclass(frozen=True)
class Bundle:
    """Some parts, each with the names that formulas may read in its run."""

    parts: Sequence[tuple[KeyedGeo, Mapping[str, Any]]]


@dataclass(frozen=True)
class Made:
    """What became of a bundle: the ``outputs`` of its parts, up to one that failed with the ``error`` (its details).

    ``told`` are warnings, ``runs`` how often graphs ran.
    """

    outputs: Sequence[dict[str, Geo]]
    told: Sequence[str] = ()
    runs: int = 0
    error: Mapping[str, Any] | None = None


def definitions(graph: Document) -> dict[str, Mapping[str, Any]]:
    """Return the published operators that a graph uses, and those that they use."""
    found: dict[str, Mapping[str, Any]] = {}
    names = references(graph)
    while names:
        name = names.pop()
        definition = library().definition(name)
        if definition is not None:
            found[name] = definition
            names |= references(definition["graph"]) - found.keys()
    return found
