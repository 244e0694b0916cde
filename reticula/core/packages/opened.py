"""A graph or a package, opened to be evaluated: what it is, what it needs, and what may be set."""

from __future__ import annotations

import json
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path
from typing import Any

from reticula.core.context import using
from reticula.core.errors import GraphError
from reticula.core.graph import check_structure
from reticula.core.graph.nesting.stored_shapes import stored_shapes
from reticula.core.graph.structure.document import chosen_node
from reticula.core.graph.structure.library import MemoryLibrary
from reticula.core.graph.structure.linked import resolved
from reticula.core.packages import Package, load_package
from reticula.core.packages.as_document import OPERATOR, document_of

__all__ = ["Opened", "opened", "read_document"]


@dataclass(frozen=True)
class Opened:
    """What all results of a graph have in common.

    Attributes
    ----------
    document : dict
        The graph.
    library : dict
        Definitions of the published operators that it uses, by ``name@release``.
    node : str
        Whose result is wanted.
    inputs : tuple of str
        Names by which geometries come in.
    shapes : dict
        Stored shapes that it names: a file, or what a package has of it (file name and bytes); None for one that must
        be given.
    packages : tuple of Package
        Where library and shapes come from.
    prefix : str
        What stands before the names of values: a package's dials are parameters of one node.
    """

    document: dict[str, Any]
    library: dict[str, Mapping[str, Any]]
    node: str
    inputs: tuple[str, ...]
    shapes: dict[str, Path | tuple[str, bytes] | None]
    packages: tuple[Package, ...] = ()
    prefix: str = ""

    @cached_property
    def dials(self) -> list[str]:
        """The names of its dials."""
        return list(self._graph.get("dials", {}))

    @cached_property
    def whole(self) -> frozenset[str]:
        """The names of its dials that take whole numbers."""
        return frozenset(name for name, dial in self._graph.get("dials", {}).items() if dial["type"] == "integer")

    @property
    def _graph(self) -> Mapping[str, Any]:
        """The graph whose dials are set."""
        if not self.prefix:
            return self.document
        found: Mapping[str, Any] = self.library[self.document["nodes"][OPERATOR]["operator"]]["graph"]
        return found

    def can_set(self, name: str) -> bool:
        """Whether a value of this name can be set: a dial, or a parameter of a node that is there."""
        node, dot, _ = name.partition(".")
        return node in self.document["nodes"] if dot else name in self.dials

    def named(self, name: str) -> str:
        """Return the full name of a value that is set."""
        return name if "." in name else self.prefix + name

    def content(self) -> bytes:
        """Return what workers need of it, the same bytes for the same graph."""
        return json.dumps({"document": self.document, "library": self.library}, sort_keys=True).encode()


def opened(
    graph: Path | Mapping[str, Any],
    *,
    packages: Iterable[Path] = (),
    given: Iterable[str] = (),
    node: str | None = None,
) -> Opened:
    """Open a graph (a document, or a file that is JSON or a package).

    ``given`` are the names by which meshes are going to be given. Raises GraphError for what is no graph, for a node
    that is not there, and for an input that a package's operator needs and is not given; FormatError for a broken
    package.
    """
    loaded = [load_package(path) for path in packages]
    names = list(given)
    if isinstance(graph, Path) and graph.suffix.lower() == ".zip":
        loaded.append(load_package(graph))
        return _of_package(loaded, names, node)
    folder = graph.parent if isinstance(graph, Path) else Path()
    document = read_document(graph) if isinstance(graph, Path) else dict(resolved(check_structure(dict(graph))))
    library = _library(loaded)
    inputs = tuple(entry["name"] for entry in document.get("inputs", []))
    with using(library=MemoryLibrary(library)):
        wanted = stored_shapes(document)
    shapes: dict[str, Path | tuple[str, bytes] | None] = {name: _file(folder / name) for name in sorted(wanted)}
    shapes |= _shapes(loaded)
    return Opened(document, library, chosen_node(document, node), inputs, shapes, tuple(loaded))


def _of_package(loaded: list[Package], names: list[str], output: str | None) -> Opened:
    main = loaded[-1].operator
    known = [port.name for port in main.inputs]
    outputs = [port.name for port in main.outputs]
    if output and output not in outputs:
        raise GraphError(f"{main.label} has no output '{output}'; it has {', '.join(outputs)}")
    try:
        document = document_of(loaded[-1], [name for name in known if name in names])
    except GraphError as error:
        raise GraphError(f"{error}: give it with --in NAME=FILE") from None
    target = OPERATOR + (f":{output}" if output else "")
    return Opened(document, _library(loaded), target, tuple(known), _shapes(loaded), tuple(loaded), f"{OPERATOR}.")


def read_document(path: Path) -> dict[str, Any]:
    """Read a graph document; raise GraphError if it is not JSON or not a graph."""
    try:
        document: dict[str, Any] = json.loads(path.read_text("utf-8"))
    except ValueError as error:
        raise GraphError(f"{path} is not JSON: {error}") from None
    return dict(resolved(check_structure(document)))


def _library(loaded: list[Package]) -> dict[str, Mapping[str, Any]]:
    return {name: definition for package in loaded for name, definition in package.definitions.items()}


def _shapes(loaded: list[Package]) -> dict[str, Path | tuple[str, bytes] | None]:
    return {name: found for package in loaded for name, found in package.shapes.items()}


def _file(path: Path) -> Path | None:
    return path if path.is_file() else None
