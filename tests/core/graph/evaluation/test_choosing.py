"""A switch has only the geometry evaluated that it passes on; what leads to the others alone is idle."""

from __future__ import annotations

from typing import Any

import pytest

from reticula.core import ops
from reticula.core.graph import Evaluation, Evaluator, run_graph
from reticula.core.operators import OPERATORS
from tests.core.graph.building import graph, node


def document(chosen: Any = 1, **more: Any) -> dict[str, Any]:
    nodes = {
        "box": node("box"),
        "far": node("transform", "box", move=[9, 0, 0]),
        "sheet": node("grid"),
        "both": node("reverse", "box"),
        "one": node("switch", inputs={"choices": ["far", "sheet"]}, chosen=chosen, **more),
        "end": node("reverse", "one"),
    }
    return graph(nodes, dials={"which": {"type": "integer", "value": 0}})


def states(done: Evaluation) -> dict[str, str]:
    return {name: found.state for name, found in done.nodes.items()}


@pytest.fixture
def run(monkeypatch: pytest.MonkeyPatch) -> list[str]:
    """The operators that ran, in order."""
    ran: list[str] = []
    made = type(OPERATORS["box"]).run

    def counted(self: Any, *given: Any, **more: Any) -> Any:
        ran.append(self.name)
        return made(self, *given, **more)

    monkeypatch.setattr(type(OPERATORS["box"]), "run", counted)
    return ran


def test_only_the_chosen_one_is_evaluated(run: list[str]) -> None:
    done = Evaluator().evaluate(document(), targets=["end"])
    assert run == ["grid", "switch", "reverse"]
    assert states(done) == {"sheet": "done", "one": "done", "end": "done"}


def test_of_all_nodes_those_that_nothing_else_needs_are_idle(run: list[str]) -> None:
    done = Evaluator().evaluate(document())
    assert "transform" not in run
    assert states(done)["far"] == "idle"
    assert states(done)["box"] == "done", "another node needs it"
    assert len(done.nodes) == 6


def test_an_idle_node_that_is_looked_at_is_evaluated(run: list[str]) -> None:
    done = Evaluator().evaluate(document(), first="far")
    assert run[:2] == ["box", "transform"]
    assert set(states(done).values()) == {"done"}


@pytest.mark.parametrize("chosen", [{"formula": "which"}, {"dial": "which"}, {"formula": "1 - 1"}])
def test_a_choice_may_be_a_formula_or_a_dial(chosen: Any) -> None:
    done = Evaluator().evaluate(document(chosen))
    assert states(done)["sheet"] == "idle"
    turned = Evaluator().evaluate(document(chosen), dials={"which": 1})
    assert (states(turned)["sheet"] == "done") == (chosen != {"formula": "1 - 1"})


def test_a_choice_that_follows_time_changes_what_is_needed() -> None:
    made = document({"formula": "integer(frame) % 2"})
    evaluator = Evaluator()
    assert states(evaluator.evaluate(made, frame=0))["sheet"] == "idle"
    assert states(evaluator.evaluate(made, frame=1))["far"] == "idle"


def test_turning_a_dial_back_finds_the_old_result(run: list[str]) -> None:
    evaluator = Evaluator()
    for which in (0, 1, 0, 1):
        evaluator.evaluate(document({"dial": "which"}), dials={"which": which}, targets=["end"])
    assert sorted(run) == ["box", "grid", "reverse", "reverse", "switch", "switch", "transform"]


def test_a_number_beyond_the_last_is_told() -> None:
    failed = Evaluator().evaluate(document(5)).nodes["one"]
    assert failed.error is not None
    assert "5 is too large; there are 2 geometries" in failed.error["message"]
    assert run_graph(document(5, around=True), node="end").counts == run_graph(document(1), node="end").counts


def test_a_broken_branch_that_is_not_chosen_does_no_harm() -> None:
    made = document(1)
    made["nodes"]["far"]["parameters"]["move"] = {"formula": "nothing_known"}
    done = Evaluator().evaluate(made)
    assert states(done)["end"] == "done"


def test_the_chosen_one_keeps_its_own_place() -> None:
    placed = ops.set_place(ops.box(), move=(5, 0, 0))
    made = ops.switch(ops.set_place(ops.grid(), move=(0, 3, 0)), placed, chosen=1)
    assert made.digest == placed.digest


def test_circles_are_still_told() -> None:
    made = document()
    made["nodes"]["far"]["inputs"]["geo"] = ["end"]
    done = Evaluator().evaluate(made)
    assert states(done)["sheet"] == "done"
    assert "circle" in str(done.nodes["far"].error)
