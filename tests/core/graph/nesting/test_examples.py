"""The example of every operator: it holds the operator, it can be read, it runs, and what it makes can be drawn."""

import pytest

from reticula.bundle import DEMO, demo_shapes
from reticula.core.graph import Evaluator
from reticula.core.graph.nesting.examples import example_of, read_example
from reticula.core.graph.nesting.stored_shapes import stored_shapes
from reticula.core.operators import OPERATORS
from reticula.core.operators.shared.resources import DiskResources

SHAPES = DiskResources({name: str(path) for name, path in demo_shapes().items()}, DEMO)


def operators_in(document: dict) -> set[str]:  # type: ignore[type-arg]
    nodes = document["nodes"].values()
    inner = [operators_in(node["graph"]) for node in nodes if "graph" in node]
    return {node["operator"] for node in nodes}.union(*inner)


@pytest.mark.parametrize("name", OPERATORS)
def test_the_example_of_an_operator_runs(name: str) -> None:
    document = example_of(name)
    assert name in operators_in(document)
    needs = {shape.removesuffix(".ply") for shape in stored_shapes(document)}
    assert needs <= demo_shapes().keys(), "a shape that does not ship with the product"
    made = Evaluator().evaluate(document, shapes=SHAPES, frame=6)
    assert [(node, one.error) for node, one in made.nodes.items() if one.error] == []
    said = [(node, note.text) for node, one in made.nodes.items() for note in one.notes if note.level == "warning"]
    assert said == []
    shown = made.nodes[document["looking_at"]].geo
    assert shown is not None
    assert len(shown.positions)


@pytest.mark.parametrize("name", OPERATORS)
def test_related_operators_are_there_and_not_the_same(name: str) -> None:
    related = OPERATORS[name].related
    assert related
    assert set(related) <= OPERATORS.keys() - {name}


def test_an_example_that_cannot_be_read_says_why() -> None:
    with pytest.raises(ValueError, match="cannot hold 'while True"):
        read_example("while True:\n    box()")
    with pytest.raises(ValueError, match="takes no 2 geometries"):
        read_example("extrude(box(), box())")


def test_lines_become_nodes_wires_dials_and_a_graph_within() -> None:
    made = read_example(
        "def lift(geo, height=0.5):\n    up = extrude(geo, distance=height)\n    return up\n"
        "lift_by = number_value(value=2)\n"
        "top, rest = split_by_group(grid(), where='index < 3')\n"
        "raised = extrude(rest, distance=lift_by)\n"
        "folded(raised, graph=lift)"
    )
    nodes = made["nodes"]
    assert made["looking_at"] == "folded"
    assert nodes["split_by_group"]["inputs"] == {"geo": ["grid"]}
    assert nodes["raised"]["inputs"] == {"geo": ["split_by_group:outside"]}
    assert nodes["raised"]["parameters"]["distance"] == {"wire": "lift_by"}
    inner = nodes["folded"]["graph"]
    assert inner["dials"] == {"height": {"type": "number", "value": 0.5}}
    assert inner["nodes"]["up"]["parameters"]["distance"] == {"dial": "height"}
    assert [inner["inputs"][0]["name"], inner["outputs"][0]["feed"]] == ["geo", "up"]
