"""The definition of a published operator: a graph with a name, a release, help and examples. It never changes."""

from __future__ import annotations

import json
import re
from collections.abc import Iterator, Mapping
from functools import cache
from importlib import resources
from typing import Any

from reticula.core.errors import GraphError
from reticula.core.formats import format_of
from reticula.core.graph.nesting.graph_operator import digest_of, graph_trouble
from reticula.core.graph.nesting.stored_shapes import shape_places, stored_shapes
from reticula.core.graph.structure.document import schema
from reticula.core.graph.validation import problems_of

__all__ = [
    "Definition",
    "check_definition",
    "definition_key",
    "definition_schema",
    "map_shapes",
    "nodes_of",
    "package_shapes",
    "release_of",
]

Definition = Mapping[str, Any]
RELEASE = re.compile(r"(0|[1-9]\d{0,4})\.(0|[1-9]\d{0,4})\.(0|[1-9]\d{0,4})\Z")
STORED = re.compile(r"[^#]{1,80}#[0-9a-f]{16}\Z")


@cache
def definition_schema() -> dict[str, Any]:
    """Return the JSON Schema of definitions."""
    text = resources.files("reticula.core.packages").joinpath("operator.schema.json").read_text("utf-8")
    loaded: dict[str, Any] = json.loads(text)
    return loaded


@cache
def _validator() -> Any:
    import jsonschema
    from referencing import Registry, Resource

    graphs = Resource.from_contents(schema())
    registry: Registry[Any] = Registry().with_resource(schema()["$id"], graphs)
    return jsonschema.Draft202012Validator(definition_schema(), registry=registry)


def release_of(text: str) -> tuple[int, int, int]:
    """Return a semantic version (https://semver.org, 2.0.0) as numbers; raise GraphError if it is none."""
    found = RELEASE.match(text)
    if not found:
        raise GraphError(f"'{text}' is not a release; write three numbers, e.g. 1.2.0", parameter="release")
    major, minor, patch = (int(part) for part in found.groups())
    return major, minor, patch


def definition_key(definition: Definition) -> str:
    """Return ``name@release``."""
    return f"{definition['name']}@{definition['release']}"


def check_definition(data: Any) -> Definition:
    """Return a definition if it fits its schema and its graph can be an operator; raise GraphError that says what
    does not, FormatError if a shape of it is in a format that is not known.

    The published operators that it names must be in the library that is in use.
    """
    from jsonschema.exceptions import best_match

    error = best_match(_validator().iter_errors(data))
    if error is not None:
        place = " / ".join(str(part) for part in error.absolute_path)
        message = error.message if len(error.message) < 300 else error.message[:300] + "…"
        raise GraphError(f"the definition of an operator is not valid: {f'at {place}: ' if place else ''}{message}")
    definition: Definition = data
    for told in definition.get("shapes", {}).values():
        format_of(told["file_name"])
    graph = definition["graph"]
    if not graph.get("outputs"):
        raise GraphError(f"'{definition_key(definition)}' has no output")
    trouble = graph_trouble(graph)
    found = problems_of(graph)
    if trouble or found:
        raise GraphError(f"'{definition_key(definition)}': {trouble or f'{found[0].node}: {found[0].message}'}")
    return definition


def nodes_of(graph: Mapping[str, Any]) -> Iterator[dict[str, Any]]:
    """Give every node of a graph and of the graphs inside it."""
    stack = [graph]
    while stack:
        for node in stack.pop()["nodes"].values():
            yield node
            if "graph" in node:
                stack.append(node["graph"])


def package_shapes(graph: Mapping[str, Any]) -> set[str]:
    """Return the names of the stored shapes that a graph uses."""
    return stored_shapes(graph)


def map_shapes(graph: dict[str, Any], names: Mapping[str, str]) -> None:
    """Put other names in place of those of stored shapes (changes the graph)."""
    for values, key in list(shape_places(graph)):
        values[key] = names.get(values[key], values[key])


def content_name(name: str, digest: str) -> str:
    """Return the name of a shape that came with an operator: it says its content, so that it can never be another
    one.
    """
    return f"{name.partition('#')[0][:80]}#{digest[:16]}"


def definition_digest(definition: Definition) -> str:
    """Return a hash of a definition."""
    return digest_of(definition)
