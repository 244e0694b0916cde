"""Evolve: states from frame to frame, kept, reset, looked into. Closed forms: tests/reference."""

from __future__ import annotations

from typing import Any

import pytest

from reticula.core.errors import GraphError, Stopped
from reticula.core.geometry import Geo
from reticula.core.graph.evaluation.evaluator import Evaluator, frames_of, run_graph
from reticula.core.graph.evaluation.store import EvaluationStore
from reticula.core.graph.inspection.time_dependence import timely_nodes
from reticula.core.operators.shared.resources import DiskResources
from tests.core.graph.building import graph, node
from tests.core.operators.time.moving import velocity_of


def growing(source: str = "here.position = position + vec3(0, 1, 0)", **parameters: Any) -> dict[str, Any]:
    """A square that a script moves at every frame."""
    inner = graph({"up": node("script", "geo", source=source)}, inputs=("geo",), outputs={"geo": "up"})
    nodes = {"square": node("grid", cells=[1, 1]), "grown": node("evolve", "square", graph=inner, **parameters)}
    return graph(nodes, time={"first": 0, "last": 48, "rate": 10})


def height(document: dict[str, Any], frame: float, **more: Any) -> float:
    return float(run_graph(document, node="grown", frame=frame, **more).positions[0, 1])


def runs(evaluator: Evaluator, document: dict[str, Any], frame: float, **more: Any) -> int:
    """How many results were made anew for a frame."""
    before = set(evaluator.cache._entries)
    done = evaluator.evaluate(document, frame=frame, **more)
    assert done.nodes["grown"].state == "done", done.nodes["grown"].error
    return sum(key not in before for key in evaluator.cache._entries)


@pytest.mark.parametrize(("frame", "made"), [(-3, 0), (0, 0), (1, 1), (5, 5), (5.75, 5)])
def test_it_begins_with_what_comes_in_and_goes_on_with_its_own_result(frame: float, made: float) -> None:
    assert height(growing(), frame) == pytest.approx(made)


def test_it_is_reset_at_a_frame_and_may_take_several_steps_per_frame() -> None:
    assert height(growing(reset=3), 5) == pytest.approx(2)
    assert height(growing(substeps=4), 5) == pytest.approx(20)


def test_formulas_inside_read_step_age_and_the_seconds_of_a_step() -> None:
    told = "here.position = vec3(step, age, seconds_per_step)"
    made = run_graph(growing(told, substeps=2, reset=1), node="grown", frame=4)
    assert made.positions[0].tolist() == pytest.approx([5.0, 0.3, 0.05])


def test_any_order_of_frames_gives_the_same_bytes() -> None:
    source = "here.position = position + noise(position * 3 + vec3(age)) * normal"
    order = [7, 2, 12, 0, 3.5]
    there = [geo.digest for geo in frames_of(growing(source), order, node="grown")]
    assert there == [run_graph(growing(source), node="grown", frame=frame).digest for frame in order]


def test_looking_back_makes_nothing_and_the_next_frame_makes_one_state() -> None:
    evaluator, document = Evaluator(), growing()
    runs(evaluator, document, 6)
    assert runs(evaluator, document, 3) == 0
    assert runs(evaluator, document, 6) == 0
    assert runs(evaluator, document, 7) == 2, "the node, and the script inside"


def test_a_change_makes_states_anew_from_the_first_frame_that_it_touches() -> None:
    evaluator = Evaluator()
    rising = {"keys": [{"frame": 0, "value": 1, "way": "hold"}, {"frame": 5, "value": 2, "way": "hold"}]}
    document = growing("high: number(0, 9) = 1\nhere.position = position + vec3(0, high, 0)")
    document["nodes"]["grown"]["graph"]["nodes"]["up"]["parameters"]["controls"] = {"high": rising}
    runs(evaluator, document, 8)
    assert float(evaluator.evaluate(document, frame=8).geo("grown").positions[0, 1]) == pytest.approx(4 + 8)
    later = {"keys": [*rising["keys"], {"frame": 7, "value": 5}]}
    document["nodes"]["grown"]["graph"]["nodes"]["up"]["parameters"]["controls"] = {"high": later}
    assert runs(evaluator, document, 8) == 4, "frames 7 and 8"
    assert float(evaluator.evaluate(document, frame=8).geo("grown").positions[0, 1]) == pytest.approx(4 + 4 + 10)


def test_stopping_keeps_what_is_done() -> None:
    evaluator, document = Evaluator(), growing()
    asked = 0

    def stop() -> bool:
        nonlocal asked
        asked += 1
        return asked > 20

    with pytest.raises(Stopped):
        evaluator.evaluate(document, frame=30, should_stop=stop)
    kept = len(evaluator.cache)
    assert kept > 4
    assert runs(evaluator, document, 30) == 2 * 30 + 2 - kept, "each state and the script in it, and the first of both"


def test_other_inputs_are_those_of_each_frame() -> None:
    inner = graph(
        {"both": node("join", inputs={"geometries": ["geo", "mark"]})}, inputs=("geo", "mark"), outputs={"geo": "both"}
    )
    document = growing()
    document["nodes"]["mark"] = node("transform", "square", move="vec3(0, frame, 0)")
    document["nodes"]["grown"] = node("evolve", inputs={"geo": ["square"], "mark": ["mark"]}, graph=inner)
    made = run_graph(document, node="grown", frame=3)
    assert sorted({round(y, 6) for y in made.positions[:, 1]}) == [0, 1, 2, 3]


def test_a_dial_of_the_graph_inside_is_as_it_is_at_each_frame() -> None:
    document = growing("here.position = position + vec3(0, lift, 0)", lift="frame")
    document["nodes"]["grown"]["graph"]["dials"] = {"lift": {"type": "number", "value": 0}}
    assert height(document, 4) == pytest.approx(1 + 2 + 3 + 4)


def test_it_is_looked_into_at_any_frame() -> None:
    done = Evaluator().evaluate(growing(), frame=5, level="grown")
    assert done.geo("geo").positions[0, 1] == pytest.approx(4)
    assert done.geo("up").positions[0, 1] == pytest.approx(5)
    begun = Evaluator().evaluate(growing(), frame=0, level="grown")
    assert begun.geo("geo").positions[0, 1] == pytest.approx(0)


def test_it_works_inside_of_folded_graphs_and_loops() -> None:
    document = growing()
    grown = {**document["nodes"]["grown"], "inputs": {"geo": ["geo"]}}
    inner = graph({"grown": grown}, inputs=("geo",), outputs={"geo": "grown"})
    outer = graph({"square": node("grid", cells=[1, 1]), "twice": node("repeat", "square", rounds=2, graph=inner)})
    assert run_graph(outer, node="twice", frame=4).positions[0, 1] == pytest.approx(4), "its start is that of frame 0"
    folded = graph({"square": node("grid", cells=[1, 1]), "one": node("folded", "square", graph=inner)})
    assert run_graph(folded, node="one", frame=4).positions[0, 1] == pytest.approx(4)


def test_a_folded_state_is_another_one_at_every_frame_of_one_evaluator() -> None:
    grown = {**growing()["nodes"]["grown"], "inputs": {"geo": ["geo"]}}
    inner = graph({"grown": grown}, inputs=("geo",), outputs={"geo": "grown"})
    folded = graph({"square": node("grid", cells=[1, 1]), "one": node("folded", "square", graph=inner)})
    twice = graph({"geo": node("input", name="geo"), "held": node("folded", "geo", graph=inner)})
    twice |= {"inputs": [{"name": "geo"}], "outputs": [{"name": "geo", "feed": "held"}]}
    folded["nodes"]["two"] = node("folded", "square", graph=twice)
    for name in ("one", "two"):
        heights = [geo.positions[0, 1] for geo in frames_of(folded, [1, 4, 2, 4], node=name)]
        assert heights == pytest.approx([1, 4, 2, 4])
    assert timely_nodes(folded, "", EvaluationStore()) == {"one", "two"}


def test_a_state_that_looks_ahead_at_itself_is_told_and_one_that_looks_back_is_not() -> None:
    inner = graph(
        {
            "told": node("motion", "geo", scheme="backward"),
            "up": node("script", "told", source="here.position = position + vec3(0, 1 + velocity.y / 20, 0)"),
        },
        inputs=("geo",),
        outputs={"geo": "up"},
    )
    document = growing()
    document["nodes"]["grown"]["graph"] = inner
    rates = [0.0]
    for _ in range(5):
        rates.append(1 + rates[-1] / 2)
    assert height(document, 5) == pytest.approx(sum(rates))
    inner["nodes"]["told"]["parameters"]["scheme"] = "central"
    with pytest.raises(GraphError, match="hangs on itself; look only at frames before"):
        height(document, 5)


def test_motion_sees_states_grow() -> None:
    document = growing()
    document["nodes"]["told"] = node("motion", "grown", scheme="backward")
    velocity = velocity_of(run_graph(document, node="told", frame=4))
    assert velocity[0].tolist() == pytest.approx([0, 10, 0])


def test_a_shape_that_is_uploaded_anew_begins_anew() -> None:
    document = growing()
    document["nodes"]["square"] = node("project_shape", shape="slate")
    low = Geo.from_faces([(0, 0, 0), (1, 0, 0), (1, 0, 1)], [(0, 2, 1)])
    high = Geo.from_faces([(0, 5, 0), (1, 5, 0), (1, 5, 1)], [(0, 2, 1)])
    evaluator = Evaluator()
    for shape, expected in ((low, 3), (high, 8)):
        done = evaluator.evaluate(document, frame=3, shapes=DiskResources({"slate": shape}))
        assert done.geo("grown").positions[0, 1] == pytest.approx(expected)


def test_what_fails_says_at_which_frame() -> None:
    document = growing("here.position = position / vec3(1, 1, 1)")
    document["nodes"]["grown"]["graph"]["nodes"]["up"] = node(
        "switch",
        inputs={"choices": ["geo"]},
        chosen={"keys": [{"frame": 0, "value": 0, "way": "hold"}, {"frame": 3, "value": 4}]},
    )
    assert height(document, 2) == pytest.approx(0)
    with pytest.raises(GraphError, match=r"at frame 3: .*4 is too large"):
        height(document, 5)


def test_too_many_frames_and_a_dial_with_the_name_of_a_step_are_told() -> None:
    with pytest.raises(GraphError, match="is the most"):
        height(growing(), 200_000)
    document = growing()
    document["nodes"]["grown"]["graph"]["dials"] = {"step": {"type": "number", "value": 1}}
    with pytest.raises(GraphError, match="cannot be called 'step'"):
        height(document, 2)
