"""The stored shapes that a graph names, at any depth: where, and which."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Any, TypeVar

from reticula.core.errors import ReticulaError
from reticula.core.graph.nesting.graph_operator import operator_of
from reticula.core.graph.structure.linked import resolved
from reticula.core.graph.time.keys import is_keyed
from reticula.core.graph.time.tables import is_following
from reticula.core.operators.declaration.parameters import Shape

__all__ = ["named_in", "shape_places", "stored_shapes"]

Where = TypeVar("Where")


def stored_shapes(graph: Mapping[str, Any]) -> set[str]:
    """Return the names of the stored shapes that a graph uses."""
    return {values[key] for values, key in shape_places(resolved(graph))}


def shape_places(graph: Mapping[str, Any]) -> Iterator[tuple[dict[str, Any], Any]]:
    """Give each place where a graph names a stored shape, as what holds the name and where in it. Values with keys name
    one per key.
    """
    stack = [graph]
    while stack:
        level = stack.pop()
        for dial in level.get("dials", {}).values():
            if is_following(dial["value"]):
                yield from _named(dial["value"], "table")
            if dial["type"] == "shape":
                yield from _named(dial, "value")
                yield from _named(dial, "default")
        for node in level["nodes"].values():
            if "graph" in node:
                stack.append(node["graph"])
            try:
                known = operator_of(node).parameters
            except ReticulaError:
                continue
            for parameter in known:
                if isinstance(getattr(parameter, "inner", parameter), Shape):
                    yield from _named(node.get("parameters", {}), parameter.name)


def _named(values: dict[str, Any], key: str) -> Iterator[tuple[dict[str, Any], str]]:
    value: Any = values.get(key)
    if is_keyed(value):
        for entry in value["keys"]:
            yield from _named(entry, "value")
    elif isinstance(value, str) and value.strip():
        yield values, key


def named_in(shapes: Mapping[str, Where], *plain: Any) -> dict[str, Where]:
    """Return the shapes whose names stand anywhere in plain data: documents, definitions of operators, values of dials.

    A name may come through dials of any depth, so that every text is taken for one.
    """
    texts = {text.strip() for thing in plain for text in _texts(thing)}
    return {name: where for name, where in shapes.items() if name in texts}


def _texts(thing: Any) -> Iterator[str]:
    stack = [thing]
    while stack:
        one = stack.pop()
        if isinstance(one, str):
            yield one
        elif isinstance(one, Mapping):
            stack.extend((*one, *one.values()))
        elif isinstance(one, (list, tuple)):
            stack.extend(one)
