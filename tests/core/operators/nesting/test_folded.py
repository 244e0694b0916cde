"""Folded: the graph inside gives the results, in the order of its outputs."""

import pytest

from reticula.core import ops
from reticula.core.errors import GeometryError
from reticula.core.graph import Evaluator
from tests.core.graph.building import graph, node


def test_every_output_is_what_its_feed_made() -> None:
    inner = graph(
        {"up": node("transform", "geo", move=[0, 2, 0]), "turned": node("reverse", "geo")},
        inputs=("geo",),
        outputs={"moved": "up", "inside_out": "turned"},
    )
    done = Evaluator().evaluate(graph({"a": node("box"), "f": node("folded", "a", graph=inner)}))
    moved, inside_out = done.nodes["f"].outputs.values()
    assert moved.digest == ops.transform(ops.box(), move=(0, 2, 0)).digest
    assert inside_out.digest == ops.reverse(ops.box()).digest


def test_it_can_only_be_used_in_a_graph() -> None:
    with pytest.raises(GeometryError, match="can only be used in a graph"):
        ops.folded()
