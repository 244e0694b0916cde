"""Where published operators come from: the catalogue of the service, or packages that Python or the command line loaded."""

from __future__ import annotations

import contextlib
import re
from collections.abc import Iterator, Mapping
from contextvars import ContextVar
from typing import Any, Protocol

from reticula.core.errors import GraphError

__all__ = [
    "LayeredLibrary",
    "Library",
    "MemoryLibrary",
    "is_published",
    "library",
    "published_name",
    "references",
    "using_library",
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


class Library(Protocol):
    """Published operators by name and release. A definition never changes."""

    def definition(self, operator: str) -> Mapping[str, Any] | None: ...

    def releases(self, name: str) -> list[str]: ...


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


_current: ContextVar[Library | None] = ContextVar("library", default=None)


def library() -> Library:
    """Return the library in use; an empty one if none was set."""
    return _current.get() or MemoryLibrary()


@contextlib.contextmanager
def using_library(chosen: Library) -> Iterator[None]:
    """Take published operators from ``chosen`` inside the block."""
    token = _current.set(chosen)
    try:
        yield
    finally:
        _current.reset(token)


def references(document: Mapping[str, Any]) -> set[str]:
    """Return the published operators that a graph names, at any depth of the graphs inside it."""
    found: set[str] = set()
    stack = [document]
    while stack:
        for node in stack.pop().get("nodes", {}).values():
            if is_published(node["operator"]):
                found.add(node["operator"])
            if "graph" in node:
                stack.append(node["graph"])
    return found
