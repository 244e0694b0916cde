"""Repeat, for each and switch."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.graph import Evaluator, run_graph
from tests.core.graph.building import graph, node


def moved(formula: str, **more: Any) -> dict[str, Any]:
    return graph(
        {"m": node("transform", "geo", move={"formula": formula})}, inputs=("geo",), outputs={"geo": "m"}, **more
    )


def test_repeat_carries_the_geometry_and_knows_its_round() -> None:
    made = graph(
        {"a": node("box"), "r": node("repeat", "a", graph=moved("vec3(0, iteration + iterations, 0)"), rounds=3)}
    )
    assert run_graph(made, node="r").bounds[0, 1] == pytest.approx(-0.5 + 3 + 4 + 5)


def test_no_round_passes_the_geometry_on() -> None:
    made = graph({"a": node("box"), "r": node("repeat", "a", graph=moved("vec3(0, 1, 0)"), rounds=0)})
    assert run_graph(made, node="r").digest == ops.box().digest


def test_values_are_carried_as_attributes_of_the_whole() -> None:
    inner = graph(
        {"s": node("set_attribute", "geo", kind="whole", name="total", value={"formula": "total * 2 + iteration"})},
        inputs=("geo",),
        outputs={"geo": "s"},
    )
    made = graph(
        {
            "a": node("box"),
            "z": node("set_attribute", "a", kind="whole", name="total", value=1.0),
            "r": node("repeat", "z", graph=inner, rounds=4),
        }
    )
    assert run_graph(made, node="r").attribute("whole", "total")[0] == ((1 * 2 + 0) * 2 + 1) * 4 + 2 * 2 + 3


def test_each_round_may_have_its_own_seed_and_other_inputs_stay() -> None:
    inner = graph(
        {
            "mark": node("group", "geo", where="random(iteration) > 0.6"),
            "up": node("extrude", "mark", where="marked", distance={"formula": "0.1"}, together=False),
            "both": node("join", inputs={"geometries": ["up", "extra"]}),
        },
        inputs=("geo", "extra"),
        outputs={"geo": "both"},
    )
    made = graph(
        {
            "a": node("grid", cells=[5, 5]),
            "b": node("box"),
            "r": node("repeat", "a", graph=inner, inputs={"extra": ["b"]}, rounds=3),
        }
    )
    result = run_graph(made, node="r")
    expected, box = ops.grid(cells=(5, 5)), ops.box()
    for number in range(3):
        marked = ops.group(expected, where=f"random({number}) > 0.6")
        expected = ops.join(ops.extrude(marked, where="marked", distance=0.1, together=False), box)
    assert result.digest == expected.digest


def test_repeat_may_end_early() -> None:
    made = graph(
        {"a": node("box"), "r": node("repeat", "a", graph=moved("vec3(0, 1, 0)"), rounds=50, until="low.y > 4")}
    )
    done = Evaluator().evaluate(made)
    assert done.geo("r").bounds[0, 1] == pytest.approx(4.5)
    assert "Ended after 5 of 50 rounds" in done.nodes["r"].notes[0].text
    made["nodes"]["r"]["parameters"]["until"] = "low.yy > 4"
    assert Evaluator().evaluate(made).nodes["r"].error["parameter"] == "until"


def test_a_single_round_can_be_looked_at() -> None:
    made = graph({"a": node("box"), "r": node("repeat", "a", graph=moved("vec3(0, 1, 0)"), rounds=5)})
    evaluator = Evaluator()
    heights = [evaluator.evaluate(made, level=level).geo("m").bounds[0, 1] for level in ("r@0", "r@2", "r", "r@99")]
    np.testing.assert_allclose(heights, [0.5, 2.5, 4.5, 4.5])


def test_another_round_costs_only_itself() -> None:
    made = graph({"a": node("box"), "r": node("repeat", "a", graph=moved("vec3(0, 1, 0)"), rounds=5)})
    evaluator = Evaluator()
    evaluator.evaluate(made)
    kept = len(evaluator.cache)
    made["nodes"]["r"]["parameters"]["rounds"] = 6
    evaluator.evaluate(made)
    assert len(evaluator.cache) == kept + 2


def test_for_each_piece_gets_its_number() -> None:
    three = ops.join(*(ops.transform(ops.box(), move=(2 * i, 0, 0)) for i in range(3)))
    inner = graph(
        {
            "n": node("set_attribute", "geo", kind="face", name="number", value={"formula": "part"}),
            "m": node("transform", "n", move={"formula": "vec3(0, part / parts, 0)"}),
        },
        inputs=("geo",),
        outputs={"geo": "m"},
    )
    made = graph({"e": node("for_each", graph=inner)})
    made["nodes"]["a"] = node("input", name="geo")
    made["inputs"] = [{"name": "geo"}]
    made["nodes"]["e"]["inputs"] = {"geo": ["a"]}
    result = run_graph(made, node="e", inputs={"geo": three})
    assert result.counts == three.counts
    np.testing.assert_array_equal(result.attribute("face", "number"), np.repeat([0, 1, 2], 6))
    np.testing.assert_allclose(result.positions[16:, 1], three.positions[16:, 1] + 2 / 3)


def parts(geo: Geo, **parameters: Any) -> Geo:
    inner = graph(
        {
            "n": node(
                "set_attribute",
                "geo",
                kind=parameters.get("kind", "face"),
                name="got",
                value={"formula": "part * 10 + parts"},
            )
        },
        inputs=("geo",),
        outputs={"geo": "n"},
    )
    made = graph({"e": node("for_each", "geo", graph=inner, **parameters)}, inputs=("geo",))
    return run_graph(made, node="e", inputs={"geo": geo})


def test_for_each_value_group_and_element() -> None:
    sheet = ops.grid(cells=(4, 1))
    sheet = ops.set_attribute(sheet, kind="face", name="kind_of", value="index % 2", type="integer")
    by_value = parts(sheet, over="value", attribute="kind_of")
    np.testing.assert_array_equal(by_value.attribute("face", "got"), [2, 2, 12, 12])
    np.testing.assert_array_equal(by_value.attribute("face", "kind_of"), [0, 0, 1, 1])
    assert len(parts(sheet, over="element").attribute("face", "got")) == 4
    grouped = ops.group(ops.group(sheet, name="rim_a", where="index == 0"), name="rim_b", where="index < 2")
    by_group = parts(grouped, over="group", groups="rim*")
    np.testing.assert_array_equal(by_group.attribute("face", "got"), [2, 12, 0, 0])


def test_parts_that_are_too_many_or_of_nothing(notes: list[Any]) -> None:
    many = ops.grid(cells=(101, 100))
    made = graph({"e": node("for_each", "geo", over="element", graph=moved("vec3(0)"))}, inputs=("geo",))
    error = Evaluator().evaluate(made, inputs={"geo": many}).nodes["e"].error
    assert error["code"] == "limit"
    assert "there are 10,100 parts; 10,000 is the most" in error["message"]
    done = Evaluator().evaluate(made, inputs={"geo": Geo.empty()}).nodes["e"]
    assert done.notes[0].text == "There is no part, so the result is empty."


def test_loops_nest_and_runaways_are_stopped(monkeypatch: pytest.MonkeyPatch) -> None:
    inner = graph(
        {"in": node("repeat", "geo", graph=moved("vec3(0, 1, 0)"), rounds={"formula": "iteration"})},
        inputs=("geo",),
        outputs={"geo": "in"},
    )
    made = graph({"a": node("box"), "r": node("repeat", "a", graph=inner, rounds=4)})
    assert run_graph(made, node="r").bounds[0, 1] == pytest.approx(-0.5 + 0 + 1 + 2 + 3)
    monkeypatch.setattr("reticula.core.graph.evaluation.held_graph.MOST_RUNS", 5)
    error = Evaluator().evaluate(made).nodes["r"].error
    assert "the loops ran 5 times" in error["message"]


def test_a_loop_can_be_stopped() -> None:
    from reticula.core.errors import Stopped

    asked = 0

    def stop() -> bool:
        nonlocal asked
        asked += 1
        return asked > 20

    made = graph({"a": node("box"), "r": node("repeat", "a", graph=moved("vec3(0, 1, 0)"), rounds=10_000)})
    with pytest.raises(Stopped):
        Evaluator().evaluate(made, should_stop=stop)


def test_switch_passes_one_on() -> None:
    made = graph({"a": node("box"), "b": node("grid"), "s": node("switch", inputs={"choices": ["a", "b"]}, chosen=1)})
    assert run_graph(made, node="s").topology.face_count == ops.grid().topology.face_count
    made["nodes"]["s"]["parameters"]["chosen"] = 2
    assert "2 is too large; there are 2 geometries, 0 to 1" in Evaluator().evaluate(made).nodes["s"].error["message"]
    made["nodes"]["s"]["parameters"]["around"] = True
    assert run_graph(made, node="s").topology.face_count == 6
