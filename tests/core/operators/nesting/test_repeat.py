"""Repeat: rounds on their own result, an early end, and what a broken condition says."""

import pytest

from reticula.core import ops
from reticula.core.graph import Evaluator, run_graph
from tests.core.graph.building import graph, node


def rounds(count: int, until: str = "") -> dict[str, object]:
    inner = graph({"m": node("transform", "geo", scale=[2, 2, 2])}, inputs=("geo",), outputs={"geo": "m"})
    return graph({"a": node("box"), "r": node("repeat", "a", graph=inner, rounds=count, until=until)})


@pytest.mark.parametrize("count", [0, 1, 5])
def test_each_round_starts_from_the_last_one(count: int) -> None:
    assert run_graph(rounds(count), node="r").bounds[1, 0] == pytest.approx(0.5 * 2**count)


def test_the_condition_is_asked_after_each_round() -> None:
    done = Evaluator().evaluate(rounds(9, "high.x >= 4"))
    assert done.geo("r").bounds[1, 0] == pytest.approx(4)
    assert [entry.text for entry in done.nodes["r"].notes] == ["Ended after 3 of 9 rounds: 'high.x >= 4' holds."]


def test_a_broken_condition_is_an_error_at_its_parameter() -> None:
    done = Evaluator().evaluate(rounds(2, "hihg.x > 1"))
    assert done.nodes["r"].state == "failed"
    assert done.nodes["r"].error["parameter"] == "until"
    assert "hihg" in done.nodes["r"].error["message"]


def test_as_many_single_operators_give_the_same_bytes() -> None:
    by_hand = ops.box()
    for _ in range(3):
        by_hand = ops.transform(by_hand, scale=(2, 2, 2))
    assert run_graph(rounds(3), node="r").digest == by_hand.digest
