"""All about a document that does not depend on values."""

from typing import Any

import pytest

from reticula.core.errors import GraphError, ParameterError
from reticula.core.graph.evaluation.plan import Plan


def test_nodes_come_after_those_that_feed_them(chain: dict[str, Any]) -> None:
    plan = Plan(chain)
    order = plan.order(None)
    assert order.index("sheet") < order.index("tall") < order.index("fine")
    assert set(plan.order(["tall"])) == {"sheet", "tall"}


def test_a_node_knows_what_its_formulas_read(chain: dict[str, Any]) -> None:
    node = Plan(chain).node("tall")
    names, _ = node.read(node.values({}))
    assert "height" in names
    assert Plan(chain).node("tall").operator.name == "extrude"


def test_bound_parameters_wait_for_the_dials(chain: dict[str, Any]) -> None:
    chain["nodes"]["fine"]["parameters"] = {"levels": {"dial": "width"}}
    node = Plan(chain).node("fine")
    assert node.bound == {"levels": "width"}
    assert node.values({"width": 2})["levels"] == 2
    with pytest.raises(ParameterError):
        node.values({"width": -7})


def test_troubles_are_kept_by_node(chain: dict[str, Any]) -> None:
    chain["nodes"]["side"]["operator"] = "bx"
    plan = Plan(chain)
    assert set(plan.problems) == {"side"}
    with pytest.raises(GraphError):
        plan.node("side")
