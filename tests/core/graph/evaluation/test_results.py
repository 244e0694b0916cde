"""Results of nodes, asked for by what feeds from them."""

import pytest

from reticula.core import ops
from reticula.core.errors import GraphError
from reticula.core.graph.evaluation.results import Evaluation, NodeResult


def done() -> Evaluation:
    two = {"geo": ops.box(), "rest": ops.grid()}
    failed = NodeResult("bad", "failed", error={"message": "it has no faces"})
    return Evaluation({"cut": NodeResult("cut", "done", "k", outputs=two), "bad": failed})


def test_outputs_are_found_by_name() -> None:
    made = done()
    assert made.geo("cut").digest == ops.box().digest
    assert made.geo("cut:rest").digest == ops.grid().digest
    assert made.part("cut").key != made.part("cut:rest").key


@pytest.mark.parametrize(
    ("feed", "message"), [("none", "was not evaluated"), ("bad", "it has no faces"), ("cut:none", "none")]
)
def test_why_there_is_nothing_is_said(feed: str, message: str) -> None:
    with pytest.raises(GraphError, match=message):
        done().geo(feed)
