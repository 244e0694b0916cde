"""Input: where a geometry comes in, and what is said where none does."""

import pytest

from reticula.core import ops
from reticula.core.errors import GeometryError
from reticula.core.graph import run_graph
from tests.core.graph.building import graph, node


def test_outside_of_an_operator_nothing_comes_in() -> None:
    with pytest.raises(GeometryError, match="nothing comes in at 'geo' here"):
        ops.input()


def test_each_input_gets_what_is_connected_to_its_name() -> None:
    inner = graph({"j": node("join", inputs={"geometries": ["left", "right"]})}, inputs=("left", "right"))
    inner["outputs"] = [{"name": "geo", "feed": "j"}]
    outer = graph(
        {
            "a": node("grid", cells=[1, 1]),
            "b": node("box"),
            "f": node("folded", graph=inner, inputs={"left": ["a"], "right": ["b"]}),
        }
    )
    made = run_graph(outer, node="f")
    assert made.digest == ops.join(ops.grid(cells=(1, 1)), ops.box()).digest
