"""A plan's variants, and the parts that make them."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import pytest

from reticula.core import ops
from reticula.core.errors import GraphError
from reticula.core.graph.structure.document import empty_document
from reticula.many.cluster import Cluster
from reticula.many.sheet import Plan, Sheet


@pytest.fixture
def tile() -> dict[str, Any]:
    return {
        **empty_document("Tile"),
        "dials": {
            "lift": {"type": "number", "value": 0.1},
            "rings": {"type": "integer", "value": 3},
        },
        "nodes": {
            "scan": {"operator": "project_shape", "parameters": {"shape": "bay"}},
            "up": {"operator": "extrude", "inputs": {"geo": ["scan"]}, "parameters": {"distance": {"formula": "lift"}}},
        },
    }


@pytest.fixture
def shapes(tmp_path: Path) -> dict[str, Path]:
    found = {name: tmp_path / f"{name}.ply" for name in ("bay", "west")}
    for number, path in enumerate(found.values(), start=2):
        ops.grid(cells=(number, number)).write(path)
    return found


def test_the_same_plan_makes_the_same_variants_with_the_same_keys(tile: dict[str, Any]) -> None:
    def keys(**plan: Any) -> list[str]:
        sheet = Sheet(tile, Plan({"lift": "uniform(0, 1)"}, count=8, **plan), {}, {})
        return [sheet.part(values).key for values in sheet.variants()]

    assert keys() == keys()
    assert len({*keys(), *keys(seed=1)}) == 16
    assert keys(numbers={"area": "area"}) != keys()


def test_whole_numbers_are_drawn_whole(tile: dict[str, Any]) -> None:
    found = Sheet(tile, Plan({"rings": "uniform(1, 9)"}, count=40), {}, {}).variants()
    assert {type(one["rings"]) for one in found} == {int}


@pytest.mark.parametrize(
    ("plan", "words"),
    [
        (Plan({"rings.x": "1"}), "nothing is called 'rings.x'"),
        (Plan({"lift": ""}), "say at least one value"),
        (Plan({"lift": "1"}, spread="even"), "'even' is no spread"),
        (Plan({"lift": "1"}, node="gone"), "there is no node 'gone'"),
        (Plan({"lift": "1"}, numbers={"top": "max("}), "number 'top'"),
        (Plan({"lift": "1"}, numbers={str(number): "area" for number in range(25)}), "24 is the most"),
    ],
)
def test_a_plan_that_cannot_be_made_is_refused(tile: dict[str, Any], plan: Plan, words: str) -> None:
    with pytest.raises(GraphError, match=words.replace("(", r"\(")):
        Sheet(tile, plan, {}, {}).variants()


def test_shapes_are_varied_by_name(tile: dict[str, Any], shapes: dict[str, Path], cluster: Cluster) -> None:
    sheet = Sheet(tile, Plan({"scan.shape": "bay,west"}, numbers={"faces": "faces"}), {}, shapes)
    parts = [sheet.part(values) for values in sheet.variants()]
    sheet.parts.send(parts, cluster.contents)
    faces = {part.values["scan.shape"]: outcome["numbers"]["faces"] for part, outcome in cluster.outcomes(parts)}
    made = {name: ops.extrude(ops.grid(cells=(size, size)), distance=0.1) for name, size in (("bay", 2), ("west", 3))}
    assert faces == {name: geo.topology.face_count for name, geo in made.items()}


def test_a_variant_says_which_node_failed_first(tile: dict[str, Any], cluster: Cluster) -> None:
    sheet = Sheet(tile, Plan({"lift": "0.2"}), {}, {})
    part = sheet.part({"lift": 0.2})
    sheet.parts.send([part], cluster.contents)
    ((_, outcome),) = cluster.outcomes([part])
    assert outcome["error"]["message"].startswith("node 'scan': the project has no shape 'bay'")
