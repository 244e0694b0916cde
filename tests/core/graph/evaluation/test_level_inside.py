"""Looking into a node: what is seen of a round, of a part, and where nothing comes in."""

import pytest

from reticula.core.errors import GraphError
from reticula.core.graph import Evaluator
from tests.core.graph.building import graph, node

INNER = graph(
    {"up": node("transform", "geo", move={"formula": "vec3(0, 1 + iteration, 0)"})},
    inputs=("geo",),
    outputs={"geo": "up"},
)
DOCUMENT = graph({"a": node("box"), "r": node("repeat", "a", graph=INNER, rounds=3)})


@pytest.mark.parametrize(("step", "low"), [("r", 5.5), ("r@0", 0.5), ("r@1", 2.5), ("r@2", 5.5)])
def test_a_round_is_seen_as_it_was(step: str, low: float) -> None:
    seen = Evaluator().evaluate(DOCUMENT, level=step)
    assert seen.geo("up").bounds[0, 1] == pytest.approx(low)


def test_without_what_comes_in_the_rest_is_still_seen() -> None:
    alone = graph({"r": node("repeat", graph=INNER, rounds=3)})
    seen = Evaluator().evaluate(alone, level="r")
    assert seen.nodes["up"].state != "done"
    assert seen.document["nodes"].keys() == INNER["nodes"].keys()


@pytest.mark.parametrize(
    ("path", "message"),
    [("nobody", "there is no node 'nobody' to look into"), ("a", "'a' holds no graph to look into")],
)
def test_what_cannot_be_looked_into_is_said(path: str, message: str) -> None:
    with pytest.raises(GraphError, match=message):
        Evaluator().evaluate(DOCUMENT, level=path)
