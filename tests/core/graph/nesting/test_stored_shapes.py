"""Stored shapes that a graph names."""

from __future__ import annotations

from typing import Any

from reticula.core.graph.nesting.stored_shapes import shape_places, stored_shapes
from tests.core.graph.building import graph, node

KEYED = {"keys": [{"frame": 0, "value": "low"}, {"frame": 9, "value": "high"}]}


def document() -> dict[str, Any]:
    inner = graph({"deep": node("project_shape", shape="deep")}, outputs={"geo": "deep"})
    return graph(
        {
            "one": node("project_shape", shape="one"),
            "none": node("project_shape", shape=" "),
            "keyed": node("project_shape", shape=KEYED),
            "held": node("folded", graph=inner),
            "lost": {"operator": "no such", "parameters": {"shape": "lost"}},
        },
        dials={"which": {"type": "shape", "value": "dial", "default": "usual"}, "n": {"type": "number", "value": 1}},
    )


def test_they_are_found_at_any_depth_in_dials_and_behind_keys() -> None:
    assert stored_shapes(document()) == {"one", "low", "high", "deep", "dial", "usual"}


def test_each_place_can_be_written_to() -> None:
    made = document()
    for values, key in list(shape_places(made)):
        values[key] = f"new {values[key]}"
    assert stored_shapes(made) == {"new one", "new low", "new high", "new deep", "new dial", "new usual"}
