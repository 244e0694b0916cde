"""Operators to publish in tests."""

from __future__ import annotations

from typing import Any

from reticula.core.context import using
from reticula.core.graph.structure.library import MemoryLibrary
from reticula.core.packages import definition_key, prepare
from tests.core.graph.building import graph, node

__all__ = ["lift_document", "published", "release"]

ABOUT = {
    "name": "lift",
    "release": "1.0.0",
    "title": "Lift",
    "summary": "Moves up",
    "help": "Moves **up**.",
    "tags": ["move"],
}


def lift_document(**dials: Any) -> dict[str, Any]:
    """A box, lifted by a folded card with the dial ``height``."""
    inner = graph(
        {"up": node("transform", "geo", move={"formula": "vec3(0, height, 0)"})},
        inputs=("geo",),
        outputs={"geo": "up"},
        dials={"height": {"type": "number", "value": 1.0, "low": 0.0, "high": 9.0}, **dials},
    )
    return graph({"a": node("box"), "b": node("folded", "a", graph=inner)})


def release(document: dict[str, Any], library: MemoryLibrary, **about: Any) -> dict[str, Any]:
    """Publish the card ``b`` into a library and return its definition."""
    with using(library=library):
        made = prepare(document, "", "b", {**ABOUT, **about}).definition
    library.definitions[definition_key(made)] = made
    return made


def published() -> tuple[MemoryLibrary, dict[str, Any]]:
    """A library with ``lift@1.0.0``, and that definition."""
    library = MemoryLibrary()
    return library, release(lift_document(), library)
