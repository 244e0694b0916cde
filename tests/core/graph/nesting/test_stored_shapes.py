"""Stored shapes that a graph names."""

from __future__ import annotations

from typing import Any

from reticula.core.graph.nesting.stored_shapes import named_in, shape_places, stored_shapes
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


def test_shapes_that_are_named_anywhere_are_found() -> None:
    shapes = {name: f"/{name}" for name in ("reef", "scan", "table.csv", "kept", "unused")}
    document = {
        "nodes": {"a": {"parameters": {"shape": " reef "}, "graph": {"nodes": {"b": {"parameters": {"s": "scan"}}}}}}
    }
    dials = {"which": {"value": {"table": "table.csv"}}, "wide": 1.5}
    library = {"tile@1.0.0": {"shapes": {"kept": "abc"}}}
    assert named_in(shapes, document, dials, library) == {
        name: f"/{name}" for name in ("reef", "scan", "table.csv", "kept")
    }


def test_what_only_contains_a_name_is_none() -> None:
    assert named_in({"reef": 1}, {"help": "the reef"}, ["reefs"]) == {}
