"""Shapes that are named anywhere travel, others stay."""

from reticula.workers.named_shapes import named_in


def test_names_are_found_at_any_depth() -> None:
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
