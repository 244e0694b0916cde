"""Documents at one frame, and what is evaluated again from frame to frame."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from reticula.core.errors import GraphError
from reticula.core.graph.evaluation.at_frame import document_at, varies
from reticula.core.graph.evaluation.evaluator import Evaluator, frames_of, run_graph
from reticula.core.graph.structure.document import check_structure
from reticula.core.graph.time.timeline import Timeline
from tests.core.graph.building import graph, node

EDGE: dict[str, Any] = {"inputs": ("geo",), "outputs": {"geo": "up"}}
RISING = {"keys": [{"frame": 0, "value": 0.0, "way": "straight"}, {"frame": 10, "value": 1.0}]}


def moving() -> dict[str, Any]:
    return graph(
        {
            "sheet": node("grid", cells=[2, 2]),
            "still": node("extrude", "sheet", distance=0.1),
            "lifted": node("transform", "sheet", move="vec3(0, time, frame)"),
            "moved": node("extrude", "sheet", distance=RISING),
        },
        time={"first": 0, "last": 24, "rate": 12},
    )


def heights(frame: float | None, of: str = "moved") -> float:
    return float(run_graph(moving(), node=of, frame=frame).positions[:, 1].max())


def test_a_keyed_value_and_the_names_of_time_follow_the_frame() -> None:
    assert [heights(frame) for frame in (None, 5, 7.5, 100)] == pytest.approx([0.0, 0.5, 0.75, 1.0])
    lifted = run_graph(moving(), node="lifted", frame=6)
    assert lifted.positions[0, 1] == pytest.approx(0.5)
    assert lifted.positions[:, 2].mean() == pytest.approx(6.0)


def test_only_what_depends_on_time_is_evaluated_again() -> None:
    evaluator = Evaluator()
    evaluator.evaluate(moving(), frame=1)
    again = evaluator.evaluate(moving(), frame=2)
    assert {name for name, result in again.nodes.items() if not result.cached} == {"lifted", "moved"}
    back = evaluator.evaluate(moving(), frame=1)
    assert all(result.cached for result in back.nodes.values())


def test_frames_in_any_order_are_the_same_bytes() -> None:
    order = [7, 0, 3, 7.25, 24]
    there = [geo.digest for geo in frames_of(moving(), order, node="moved")]
    back = [geo.digest for geo in frames_of(moving(), reversed(order), node="moved")]
    assert there == back[::-1]
    assert there == [run_graph(moving(), node="moved", frame=frame).digest for frame in order]


def nested(inner: dict[str, Any], **parameters: Any) -> dict[str, Any]:
    return graph({"sheet": node("grid", cells=[1, 1]), "tile": node("folded", "sheet", graph=inner, **parameters)})


def test_time_reaches_graphs_inside_of_nodes() -> None:
    inner = graph({"up": node("transform", "geo", move="vec3(0, frame, 0)")}, **EDGE)
    evaluator = Evaluator()
    found = [evaluator.evaluate(nested(inner), frame=frame).geo("tile").positions[0, 1] for frame in (0, 3, 0)]
    assert found == [0.0, 3.0, 0.0]


def test_a_dial_inside_may_have_keys_and_one_called_time_wins() -> None:
    inner = graph(
        {"up": node("transform", "geo", move="vec3(0, lift + time, 0)")},
        dials={"lift": {"type": "number", "value": RISING}, "time": {"type": "number", "value": 100.0}},
        **EDGE,
    )
    assert run_graph(nested(inner), node="tile", frame=5).positions[0, 1] == pytest.approx(100.5)
    assert run_graph(nested(inner, lift=RISING), node="tile", frame=2).positions[0, 1] == pytest.approx(100.2)


def test_controls_of_a_script_have_keys_and_whole_ones_are_rounded() -> None:
    source = "rows: integer(0, 9) = 1\nlift: number(0, 1) = 0\nhere.position.y = rows + lift"
    whole = {"keys": [{"frame": 0, "value": 0, "way": "straight"}, {"frame": 10, "value": 3}]}
    made = graph({"sheet": node("grid"), "script": node("script", "sheet", source=source, controls={"rows": whole})})
    assert np.unique(run_graph(made, node="script", frame=5).positions[:, 1]).tolist() == [2.0]


def test_flags_choices_and_places_have_keys() -> None:
    def at(first: Any, second: Any) -> dict[str, Any]:
        return {"keys": [{"frame": 0, "value": first}, {"frame": 10, "value": second}]}

    places = at([[0, 0, 0], [1, 0, 0]], [[0, 0, 0], [3, 0, 0]])
    made = graph(
        {
            "way": node("curve_through", places=places, closed=at(False, True)),
            "disc": node("disc", facing=at("up", "side")),
        }
    )
    assert run_graph(made, node="way", frame=5).positions[:, 0].max() == pytest.approx(2.0)
    assert run_graph(made, node="disc", frame=9.9).positions[:, 1].max() == 0.0
    assert run_graph(made, node="disc", frame=10).positions[:, 0].max() == pytest.approx(0.0, abs=1e-12)


def test_bad_keys_fail_their_node_alone() -> None:
    backwards = {"keys": [{"frame": 5, "value": 1.0}, {"frame": 1, "value": 2.0}]}
    made = graph({"good": node("grid"), "bad": node("extrude", "good", distance=backwards)})
    done = Evaluator().evaluate(made, frame=3)
    assert done.nodes["good"].state == "done"
    error = done.nodes["bad"].error or {}
    assert (done.nodes["bad"].state, error["parameter"]) == ("failed", "distance")
    assert "key 2, at frame 1, does not come after key 1" in error["message"]


def test_a_value_that_does_not_fit_at_some_frame_is_said_there() -> None:
    shrinking = {"keys": [{"frame": 0, "value": 1.0, "way": "straight"}, {"frame": 10, "value": -1.0}]}
    made = graph({"ball": node("sphere", radius=shrinking)})
    evaluator = Evaluator()
    assert evaluator.evaluate(made, frame=1).nodes["ball"].state == "done"
    assert evaluator.evaluate(made, frame=9).nodes["ball"].state == "failed"


@pytest.mark.parametrize("frame", [float("nan"), float("inf"), 1e9, True, "3"])
def test_frames_that_are_none_are_refused(frame: Any) -> None:
    with pytest.raises(GraphError, match="a frame is a number"):
        run_graph(moving(), frame=frame)


def test_a_document_without_keys_is_left_as_it_is() -> None:
    plain = graph({"sheet": node("grid")})
    assert document_at(plain, Timeline().names(5)) is plain
    assert not varies(plain)
    assert check_structure(moving()) is not None
