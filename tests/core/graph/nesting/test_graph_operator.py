"""Graphs inside nodes: dials, outputs, depth, errors and notes from inside, and what is kept between runs."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.errors import GeometryError, GraphError
from reticula.core.graph import Evaluator, run_graph
from reticula.core.graph.nesting.graph_operator import operator_of
from tests.core.graph.building import graph, node

NUMBER = {"type": "number", "value": 0.2}


def lifted(**dial: Any) -> dict[str, Any]:
    return graph(
        {"up": node("transform", "geo", move={"formula": "vec3(0, height, 0)"})},
        inputs=("geo",),
        outputs={"geo": "up"},
        dials={"height": {**NUMBER, **dial}},
    )


def test_a_folded_graph_runs_with_its_dials() -> None:
    made = graph({"a": node("box"), "b": node("folded", "a", graph=lifted(), height=2.0)})
    assert run_graph(made, node="b").bounds[0, 1] == pytest.approx(1.5)
    del made["nodes"]["b"]["parameters"]["height"]
    assert run_graph(made, node="b").bounds[0, 1] == pytest.approx(-0.3)


def test_dials_follow_outer_dials_ties_and_value_nodes() -> None:
    made = graph(
        {
            "a": node("box", size=[3, 1, 1]),
            "b": node("folded", "a", graph=lifted(), height={"formula": "tall * 2"}),
            "c": node("folded", "a", graph=lifted(), height={"formula": "a.size.x"}),
            "v": node("number_value", value=7.0),
            "d": node("folded", "a", graph=lifted(), height={"wire": "v"}),
            "e": node("folded", "a", graph=lifted(), height={"dial": "tall"}),
        },
        dials={"tall": {"type": "number", "value": 2.0}},
    )
    heights = [run_graph(made, node=name).bounds[0, 1] + 0.5 for name in "bcde"]
    np.testing.assert_allclose(heights, [4, 3, 7, 2])


def test_formulas_that_vary_are_handed_on_with_outer_values_in_them() -> None:
    inner = graph(
        {
            "w": node("set_attribute", "geo", name="warm", value={"dial": "warmth"}),
            "m": node("group", "w", where={"dial": "which"}, name="hot"),
        },
        inputs=("geo",),
        outputs={"geo": "m"},
        dials={
            "warmth": {"type": "varying", "value": 0.0, "holds": "any", "on": "point"},
            "which": {"type": "where", "value": "", "on": "face"},
        },
    )
    made = graph(
        {
            "a": node("grid", cells=[4, 4]),
            "b": node("folded", "a", graph=inner, warmth={"formula": "position.x * k"}, which="index < k"),
        },
        dials={"k": {"type": "number", "value": 3.0}},
    )
    result = run_graph(made, node="b")
    np.testing.assert_allclose(result.attribute("point", "warm"), result.positions[:, 0] * 3)
    assert result.group("face", "hot").sum() == 3


def test_graphs_nest_three_deep_and_are_looked_into() -> None:
    def around(inner: dict[str, Any]) -> dict[str, Any]:
        return graph(
            {"in": node("folded", "geo", graph=inner, height={"formula": "height + 1"})},
            inputs=("geo",),
            outputs={"geo": "in"},
            dials={"height": NUMBER},
        )

    made = graph({"a": node("box"), "b": node("folded", "a", graph=around(around(lifted())), height=1.0)})
    evaluator = Evaluator()
    assert evaluator.evaluate(made).geo("b").bounds[0, 1] == pytest.approx(2.5)
    inside = evaluator.evaluate(made, level="b/in/in")
    assert inside.dials["height"] == 3.0
    assert inside.geo("up").bounds[0, 1] == pytest.approx(2.5)
    assert inside.nodes["up"].cached


def test_a_level_can_be_looked_into_while_its_node_has_no_input() -> None:
    made = graph({"b": node("folded", graph=lifted())})
    inside = Evaluator().evaluate(made, level="b")
    assert "nothing comes in at 'geo'" in inside.nodes["geo"].error["message"]
    with pytest.raises(GraphError, match="there is no node 'x'"):
        Evaluator().evaluate(made, level="x")
    with pytest.raises(GraphError, match="holds no graph"):
        Evaluator().evaluate(graph({"a": node("box")}), level="a")


def test_several_outputs() -> None:
    inner = graph(
        {"s": node("split_by_group", "geo", where="index < 2")}, inputs=("geo",), outputs={"few": "s", "many": "s:rest"}
    )
    from reticula.core.operators import OPERATORS

    second = OPERATORS["split_by_group"].outputs[1].name
    inner["outputs"][1]["feed"] = f"s:{second}"
    made = graph({"a": node("box"), "b": node("folded", "a", graph=inner), "c": node("transform", "b:many")})
    done = Evaluator().evaluate(made)
    assert done.geo("b").topology.face_count == 2
    assert done.geo("c").topology.face_count == 4


def test_only_what_changed_inside_runs_again() -> None:
    inner = graph(
        {
            "one": node("smooth_subdivide", "geo"),
            "two": node("transform", "one", move={"formula": "vec3(0, height, 0)"}),
        },
        inputs=("geo",),
        outputs={"geo": "two"},
        dials={"height": NUMBER},
    )
    made = graph({"a": node("box"), "b": node("folded", "a", graph=inner)})
    evaluator = Evaluator()
    evaluator.evaluate(made)
    made["nodes"]["b"]["parameters"]["height"] = 5.0
    assert not evaluator.evaluate(made).nodes["b"].cached
    inside = evaluator.evaluate(made, level="b")
    assert inside.nodes["one"].cached
    inner["nodes"]["two"]["place"] = [1, 2]
    assert evaluator.evaluate(made).nodes["b"].cached


def test_errors_inside_name_the_card_and_the_dial() -> None:
    inner = graph(
        {"bad": node("group", "geo", where={"dial": "which"})},
        inputs=("geo",),
        outputs={"geo": "bad"},
        dials={"which": {"type": "where", "value": "", "on": "face"}},
    )
    made = graph(
        {"a": node("box"), "b": node("folded", "a", graph=inner, which="no_such > 1"), "c": node("transform", "b")}
    )
    done = Evaluator().evaluate(made)
    error = done.nodes["b"].error
    assert error["code"] == "nested"
    assert error["cause"] == "bad"
    assert error["parameter"] == "which"
    assert "inside, bad: " in error["message"]
    assert done.nodes["c"].state == "waiting"


def test_warnings_inside_reach_the_card_once() -> None:
    inner = graph(
        {"none": node("group", "geo", where="area > 99", name="big")}, inputs=("geo",), outputs={"geo": "none"}
    )
    made = graph({"a": node("box"), "b": node("repeat", "a", graph=inner, rounds=4)})
    told = [note.text for note in Evaluator().evaluate(made).nodes["b"].notes if note.level == "warning"]
    assert len(told) == 1
    assert told[0].startswith("Inside, none: The group 'big' is empty")


def test_expectations_and_promises_are_checked_in_words() -> None:
    inner = lifted()
    inner["inputs"][0]["expects"] = [{"what": "closed"}]
    inner["contracts"] = [{"what": "quads"}, {"what": "formula", "formula": "high.y > 100"}]
    made = graph(
        {
            "a": node("box"),
            "b": node("folded", "a", graph=inner),
            "g": node("grid"),
            "h": node("folded", "g", graph=inner),
        }
    )
    done = Evaluator().evaluate(made)
    assert done.nodes["b"].state == "done"
    assert [note.text for note in done.nodes["b"].notes] == [
        "What this operator promises does not hold: 'high.y > 100' does not hold."
    ]
    assert "'geo' is not as expected: it has" in done.nodes["h"].error["message"]


def test_values_of_dials_that_are_gone_are_put_by() -> None:
    made = graph({"a": node("box"), "b": node("folded", "a", graph=lifted(), height=1.0, width=9.0)})
    done = Evaluator().evaluate(made)
    assert done.nodes["b"].state == "done"
    assert any("no dial width any more; the value is put by" in note.text for note in done.nodes["b"].notes)


def test_a_misspelt_dial_is_refused_with_the_near_name() -> None:
    made = graph({"a": node("box"), "b": node("folded", "a", graph=lifted(), heigth=1.0)})
    failed = Evaluator().evaluate(made).nodes["b"]
    assert failed.state == "failed"
    assert "there is no dial 'heigth'; did you mean height?" in failed.error["message"]
    made["nodes"]["b"]["parameters"]["height"] = 2.0
    assert Evaluator().evaluate(made).nodes["b"].state == "done", "the one that was meant has its value"


def test_broken_graphs_are_refused_in_words() -> None:
    def message(inner: dict[str, Any], operator: str = "folded") -> str:
        error = Evaluator().evaluate(graph({"a": node("box"), "b": node(operator, "a", graph=inner)})).nodes["b"].error
        return str(error["message"])

    assert "nothing feeds the output 'geo'" in message(graph({}, inputs=("geo",), outputs={"geo": "gone"}))
    twice = lifted()
    twice["inputs"].append({"name": "geo"})
    assert "two inputs are called 'geo'" in message(twice)
    named = lifted()
    named["dials"] = {"rounds": NUMBER}
    assert "the dial 'rounds' has the name of a parameter of repeat" in message(named, "repeat")
    assert "its default does not fit" in message(lifted(low=1.0))
    missing = lifted()
    missing["nodes"]["geo"]["parameters"]["name"] = "other"
    assert "this graph has no input 'other'; it has geo" in message(missing)


def test_an_operator_with_a_graph_can_be_called_like_any_other() -> None:
    chosen = operator_of(node("folded", graph=lifted()))
    geo = chosen(ops.box(), height=1.0)
    assert isinstance(geo, Geo)
    assert geo.bounds[0, 1] == pytest.approx(0.5)
    with pytest.raises(GeometryError, match="takes 1 geometries"):
        chosen()
