"""Nodes with several outputs: wires, looks, skipping, keys."""

import pytest

from reticula.core.errors import GraphError
from reticula.core.graph import Evaluator, problems_of, run_graph, split_feed

DOCUMENT = {
    "format": "reticula graph",
    "version": 1,
    "nodes": {
        "box": {"operator": "box"},
        "cut": {"operator": "slice", "parameters": {"through": [0, 0.25, 0]}, "inputs": {"geo": ["box"]}},
        "low": {"operator": "measure_only", "inputs": {"geo": ["cut:below"]}},
        "both": {"operator": "join", "inputs": {"geometries": ["cut", "cut:below", "cut:above"]}},
    },
}


def document() -> dict:
    made = {**DOCUMENT, "nodes": {name: dict(node) for name, node in DOCUMENT["nodes"].items()}}
    made["nodes"]["low"]["operator"] = "triangulate"
    return made


def test_wires_name_outputs() -> None:
    assert split_feed("cut:below") == ("cut", "below")
    assert split_feed("cut") == ("cut", "")
    done = Evaluator().evaluate(document())
    assert done.geo("cut").bounds[0, 1] == pytest.approx(0.25)
    assert done.geo("cut:below").bounds[1, 1] == pytest.approx(0.25)
    assert done.geo("cut:above") is done.geo("cut")
    assert done.geo("low").bounds[1, 1] == pytest.approx(0.25)
    assert done.geo("both").counts["faces"] == 18
    assert run_graph(document(), node="cut:below").digest == done.geo("cut:below").digest


def test_a_look_or_wire_at_an_output_that_does_not_exist() -> None:
    broken = document()
    broken["nodes"]["low"]["inputs"] = {"geo": ["cut:middle"]}
    assert [problem.node for problem in problems_of(broken)] == ["low"]
    assert "has above, below" in problems_of(broken)[0].message
    with pytest.raises(GraphError, match="no output 'middle', but above, below"):
        Evaluator().evaluate(document()).geo("cut:middle")


def test_results_of_different_outputs_have_different_keys() -> None:
    one, other = document(), document()
    other["nodes"]["low"]["inputs"] = {"geo": ["cut:above"]}
    evaluator = Evaluator()
    low = evaluator.evaluate(one).nodes["low"].key
    assert evaluator.evaluate(other).nodes["low"].key != low
    assert evaluator.evaluate(one).nodes["low"].cached


def test_skipping_passes_the_input_to_every_output() -> None:
    skipped = document()
    skipped["nodes"]["cut"]["skip"] = True
    done = Evaluator().evaluate(skipped)
    assert done.geo("cut:below").counts["faces"] == 6
    assert done.geo("both").counts["faces"] == 18
