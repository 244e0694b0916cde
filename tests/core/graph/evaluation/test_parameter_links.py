"""Parameters that follow those of other nodes, and inputs that may stay empty."""

from typing import Any

import pytest

from reticula.core.graph import Evaluator, run_graph


def document(**nodes: dict[str, Any]) -> dict[str, Any]:
    return {"format": "reticula graph", "version": 1, "title": "", "dials": {}, "nodes": nodes, "looking_at": None}


def node(operator: str, *feeds: str, **parameters: Any) -> dict[str, Any]:
    return {"operator": operator, "parameters": parameters} | ({"inputs": {"geo": list(feeds)}} if feeds else {})


def test_a_pattern_follows_another_node_s_count() -> None:
    def marked(segments: int) -> int:
        made = document(
            tube=node("cylinder", segments=segments),
            marks=node(
                "group_by_pattern",
                "tube",
                every={"formula": "tube.segments / 4"},
                kind="face",
                last={"formula": "integer(tube.segments) - 1"},
            ),
        )
        made["nodes"]["marks"]["parameters"]["every"] = {"formula": "tube.segments // 4"}
        return int(run_graph(made, node="marks").group("face", "pattern").sum())

    assert marked(16) == 4
    assert marked(32) == 4


def test_a_change_of_the_tied_value_re_runs_what_reads_it() -> None:
    evaluator = Evaluator()
    made = document(
        a=node("box"), b=node("box", size=[2, 1, 1]), c=node("transform", "a", move={"formula": "b.size * 2"})
    )
    first = evaluator.evaluate(made)
    assert first.geo("c").bounds[0, 0] == pytest.approx(3.5)
    made["nodes"]["b"]["parameters"]["size"] = [3, 1, 1]
    second = evaluator.evaluate(made)
    assert second.geo("c").bounds[0, 0] == pytest.approx(5.5)
    assert second.nodes["a"].cached
    assert evaluator.evaluate(made).nodes["c"].cached


def test_ties_of_ties_and_dials() -> None:
    made = document(
        a=node("box", size={"formula": "vec3(width, 1, 1)"}),
        b=node("grid", size={"formula": "a.size.xz"}),
        c=node("transform", "b", move={"formula": "vec3(b.size.x, 0, 0)"}),
    )
    made["dials"] = {"width": {"type": "number", "value": 4.0}}
    assert run_graph(made, node="c").bounds[0, 0] == pytest.approx(2.0)


def test_circles_are_refused_with_their_path() -> None:
    made = document(
        a=node("box", size={"formula": "b.size"}),
        b=node("box", size={"formula": "a.size"}),
        c=node("box", size={"formula": "c.size"}),
    )
    done = Evaluator().evaluate(made)
    assert done.nodes["a"].state == "failed"
    assert "the ties run in a circle: " in str(done.nodes["a"].error)
    assert "c.size" in str(done.nodes["c"].error)


def test_what_does_not_exist_is_named() -> None:
    made = document(a=node("box"), b=node("box", size={"formula": "a.sise"}))
    error = Evaluator().evaluate(made).nodes["b"].error
    assert error is not None
    assert "'a' has no parameter 'sise' with a plain value; it has size" in error["message"]


def test_an_input_s_own_name_wins_over_a_node_s() -> None:
    made = document(
        geo=node("box", size=[2, 2, 2]), b=node("transform", "geo", move={"formula": "vec3(geo.high.x, 0, 0)"})
    )
    assert run_graph(made, node="b").bounds[0, 0] == pytest.approx(0.0)


def test_optional_inputs_may_stay_empty() -> None:
    made = document(a=node("grid"), b=node("set_attribute", "a", value={"formula": "position.x"}))
    assert run_graph(made, node="b").has("point", "value")
    made["nodes"]["b"]["parameters"]["value"] = {"formula": "source.low.x"}
    error = Evaluator().evaluate(made).nodes["b"].error
    assert error is not None
    assert "nothing is connected to 'source'" in error["message"]
    made["nodes"]["b"]["inputs"]["source"] = ["a"]
    assert (run_graph(made, node="b").attribute("point", "value") == -0.5).all()
