"""A graph at its other frames: what is held, what is refused. The operators that use it have tests of their own."""

from __future__ import annotations

from typing import Any

import pytest

from reticula.core import ops
from reticula.core.errors import GeometryError, GraphError
from reticula.core.graph.evaluation.evaluator import Evaluator
from reticula.core.graph.evaluation.moments import MOST_LEVELS
from reticula.core.graph.evaluation.store import EvaluationStore
from tests.core.graph.building import graph, node


def document(**asked: Any) -> dict[str, Any]:
    return graph(
        {
            "sheet": node("grid", cells=[1, 1]),
            "moved": node("transform", "sheet", move="vec3(0, frame, 0)"),
            "then": node("at_frame", "moved", **asked),
        }
    )


def test_dials_that_are_given_hold_at_every_frame() -> None:
    made = document(by=-2)
    made["nodes"]["moved"]["parameters"]["move"] = "vec3(0, frame * reach, 0)"
    made["dials"] = {"reach": {"type": "number", "value": 1}}
    done = Evaluator().evaluate(made, frame=5, dials={"reach": 10})
    assert done.geo("then").positions[0, 1] == pytest.approx(30)


def test_what_comes_in_from_outside_is_there_at_every_frame() -> None:
    nodes = {"moved": node("transform", "geo", move="vec3(0, frame, 0)"), "then": node("at_frame", "moved", by=-2)}
    made = graph(nodes, inputs=("geo",))
    done = Evaluator().evaluate(made, frame=5, inputs={"geo": ops.box()})
    assert done.geo("then").bounds[:, 1] == pytest.approx([2.5, 3.5])


def test_more_frames_than_are_held_at_once_are_still_right() -> None:
    made = document()
    made["nodes"]["then"] = node("paths_over_time", "moved", back=MOST_LEVELS + 40)
    done = Evaluator().evaluate(made, frame=300)
    first = done.geo("then").positions[: MOST_LEVELS + 41, 1]
    assert first.tolist() == pytest.approx(list(range(300 - MOST_LEVELS - 40, 301)))


def test_a_frame_too_far_away_is_told_at_the_node() -> None:
    done = Evaluator().evaluate(document(by=1e8), frame=5)
    assert done.nodes["moved"].state == "done"
    assert "a frame is a number up to" in str(done.nodes["then"].error)


def test_states_are_kept_by_what_they_are_states_of() -> None:
    store = EvaluationStore()
    store.states("a")[1.0] = "key"
    assert store.states("a") == {1.0: "key"}
    assert store.states("b") == {}


def test_a_node_that_is_not_connected_says_so_at_once() -> None:
    made = document()
    made["nodes"]["then"] = node("at_frame")
    with pytest.raises((GraphError, GeometryError), match="nothing is connected"):
        Evaluator().evaluate(made, frame=5).geo("then")
