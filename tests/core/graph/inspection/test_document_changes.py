"""What differs between two documents is told in words, and nothing else is."""

from __future__ import annotations

import copy
from typing import Any

import pytest

from demo.settlement_tile import settlement_tile
from reticula.core.graph.inspection.document_changes import document_changes
from tests.core.graph.building import graph, node


@pytest.fixture
def before() -> dict[str, Any]:
    nodes = {
        "a": node("box", size=[1, 1, 1]),
        "b": node("transform", "a", move={"formula": "vec3(0, height, 0)"}),
        "c": node("join", "a", "b"),
    }
    return graph(nodes, dials={"height": {"type": "number", "value": 2.0}}, looking_at="c")


def lines(old: dict[str, Any], new: dict[str, Any]) -> list[str]:
    return [one.text for one in document_changes(old, new)]


def test_the_same_document_and_moved_cards_differ_in_nothing(before: dict[str, Any]) -> None:
    after = copy.deepcopy(before)
    after["nodes"]["a"]["place"] = [3, 4]
    assert lines(before, after) == []
    assert lines(settlement_tile(), settlement_tile()) == []


def test_values_wires_titles_and_dials(before: dict[str, Any]) -> None:
    after = copy.deepcopy(before)
    after["nodes"]["a"]["parameters"] = {}
    after["nodes"]["b"] |= {"title": "lift", "skip": True, "parameters": {"move": [0, 1, 0]}}
    after["nodes"]["c"]["inputs"]["geo"] = ["b"]
    after["dials"]["height"]["value"] = 3.0
    after["dials"]["width"] = {"type": "number", "value": 1}
    after["looking_at"] = "b"
    assert lines(before, after) == [
        "dial height: value 2.0 → 3.0",
        "new dial width = 1",
        "looking at c → b",
        "a: size [1, 1, 1] → default",
        "b: title none → lift",
        "b: skipped",
        "b: move formula vec3(0, height, 0) → [0, 1, 0]",
        "c: geo from b instead of a, b",
    ]


def test_nodes_come_go_and_are_renamed(before: dict[str, Any]) -> None:
    after = copy.deepcopy(before)
    after["nodes"] = {
        "block": after["nodes"]["a"],
        "b": after["nodes"]["b"] | {"inputs": {"geo": ["block"]}},
        "d": node("smooth_subdivide", "b"),
    }
    assert lines(before, after) == [
        "block: was called a",
        "d: new, smooth subdivide",
        "c: gone, join",
    ]


def test_two_nodes_alike_are_not_taken_for_renamed() -> None:
    old = graph({"a": node("box"), "b": node("box")})
    new = graph({"c": node("box"), "b": node("box")})
    assert lines(old, new) == ["c: was called a"]
    new = graph({"c": node("box"), "d": node("box")})
    assert lines(old, new) == ["c: new, box", "d: new, box", "a: gone, box", "b: gone, box"]


def test_graphs_inside_of_nodes() -> None:
    inner = graph({"ring": node("box"), "turned": node("transform", "ring")})
    old = graph({"tile": node("folded") | {"graph": inner}})
    new = copy.deepcopy(old)
    new["nodes"]["tile"]["graph"]["nodes"]["ring"]["title"] = "post"
    assert lines(old, new) == ["tile/ring: title none → post"]
    del new["nodes"]["tile"]["graph"]
    assert lines(old, new) == ["tile: holds no graph any more"]
