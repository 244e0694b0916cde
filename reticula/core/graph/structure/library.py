"""Where published operators come from: the catalogue of the service, or packages that Python or the command line
loaded.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Any

from reticula.core.context import Library, current
from reticula.core.errors import GraphError

__all__ = [
    "LayeredLibrary",
    "Library",
    "MemoryLibrary",
    "is_published",
    "library",
    "published_name",
    "references",
]

PUBLISHED = re.compile(r"([a-z][a-z0-9_]{0,47})@(0|[1-9]\d{0,4})\.(0|[1-9]\d{0,4})\.(0|[1-9]\d{0,4})\Z")


def is_published(operator: str) -> bool:
    """Whether an operator's name is that of a published one: ``name@1.2.0``."""
    return PUBLISHED.match(operator) is not None


def published_name(operator: str) -> tuple[str, str]:
    """Return the name and the release of ``name@1.2.0``; raise GraphError if it is none."""
    if not is_published(operator):
        raise GraphError(f"'{operator}' is not the name of a published operator, such as tile@1.0.0")
    name, _, release = operator.partition("@")
    return name, release


class MemoryLibrary:
    """Definitions by ``name@release``."""

    def __init__(self, definitions: Mapping[str, Mapping[str, Any]] | None = None) -> None:
        self.definitions = dict(definitions or {})

    def definition(self, operator: str) -> Mapping[str, Any] | None:
        return self.definitions.get(operator)

    def releases(self, name: str) -> list[str]:
        found = [published_name(entry)[1] for entry in self.definitions if published_name(entry)[0] == name]
        return sorted(found, key=lambda release: tuple(map(int, release.split("."))))


class LayeredLibrary:
    """A library, and behind it another one: the one in use when this was made."""

    def __init__(self, first: Library) -> None:
        self.first, self.rest = first, library()

    def definition(self, operator: str) -> Mapping[str, Any] | None:
        return self.first.definition(operator) or self.rest.definition(operator)

    def releases(self, name: str) -> list[str]:
        found = {*self.first.releases(name), *self.rest.releases(name)}
        return sorted(found, key=lambda release: tuple(map(int, release.split("."))))


def library() -> Library:
    """Return the library in use; an empty one if none was set."""
    return current().library or MemoryLibrary()


def references(document: Mapping[str, Any]) -> set[str]:
    """Return the published operators that a graph names, at any depth of the graphs inside it."""
    found: set[str] = set()
    stack = [document, *(document.get("linked") or {}).values()]
    while stack:
        for node in stack.pop().get("nodes", {}).values():
            if is_published(node["operator"]):
                found.add(node["operator"])
            if "graph" in node:
                stack.append(node["graph"])
    return found
