"""Where a text stands: what it may read, and on what it runs."""

from __future__ import annotations

import pytest

from reticula.core.errors import ParameterError
from reticula.core.graph import Evaluator
from reticula.core.graph.inspection.text_place import TextAt, text_at
from tests.core.graph.building import graph, node

NODES = {
    "sheet": node("grid", cells=[2, 2]),
    "far": node("set_place", "sheet", move=[5, 0, 0]),
    "own": {
        "operator": "script",
        "inputs": {"geo": ["sheet"], "reef": ["far"]},
        "parameters": {"source": "reef: geometry\nhere.a = 1", "each": "face"},
    },
    "marks": node("group", "sheet", kind="edge", where="length > 0"),
}


def at(name: str, parameter: str, source: str) -> TextAt:
    return text_at(Evaluator().evaluate(graph(NODES)), name, parameter, source)


def test_inputs_stand_as_the_first_one_sees_them() -> None:
    text = at("own", "source", "reef: geometry\nhere.a = 1")
    reef = text.here.inputs["reef"]
    assert reef is not None
    assert reef.bounds[0][0] == 4.5
    assert text.elements_of()[0] == "face"


def test_the_kind_may_be_a_parameter_of_its_own() -> None:
    kind, geo = at("marks", "where", "length > 0.2").elements_of()
    assert (kind, geo.topology.edge_count) == ("edge", 12)


def test_once_is_the_whole() -> None:
    assert at("sheet", "size", "vec2(1, 2)").elements_of()[0] == "whole"


def test_a_parameter_that_is_not_there_is_said() -> None:
    with pytest.raises(ParameterError, match="no such parameter"):
        at("sheet", "sizes", "1")
