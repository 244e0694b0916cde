"""Unfold: cards come out with the values, wires and names that they had inside; what cannot is refused."""

from typing import Any

import pytest

from reticula.core.errors import GraphError
from reticula.core.graph import run_graph
from reticula.core.graph.editing import unfold
from tests.core.graph.building import graph, node


def folded(how: Any, dials: dict[str, Any] | None = None, **given: Any) -> dict[str, Any]:
    inner = graph({"up": node("transform", "geo", move=how)}, inputs=("geo",), outputs={"geo": "up"}, dials=dials)
    return graph({"a": node("box"), "f": node("folded", "a", graph=inner, **given), "z": node("reverse", "f")})


HEIGHT = {"height": {"type": "number", "value": 1.0}}


@pytest.mark.parametrize(("value", "written"), [(2.5, "vec3(0, 2.5, 0)"), (-1.0, "vec3(0, (-1.0), 0)")])
def test_a_dial_s_value_is_written_into_the_formulas_that_read_it(value: float, written: str) -> None:
    made = folded({"formula": "vec3(0, height, 0)"}, HEIGHT, height=value)
    flat, names = unfold(made, "f")
    assert names == ["up"]
    assert flat["nodes"]["up"]["parameters"]["move"] == {"formula": written}
    assert run_graph(flat, node="z").digest == run_graph(made, node="z").digest


RISING = {"keys": [{"frame": 0, "value": 0.0, "way": "straight"}, {"frame": 10, "value": 1.0}]}


def test_a_value_with_keys_becomes_a_dial_of_the_outer_graph_where_formulas_read_it() -> None:
    made = folded({"formula": "vec3(0, height, height)"}, HEIGHT, height=RISING)
    made["dials"] = {"height": {"type": "number", "value": 7.0}}
    flat, _ = unfold(made, "f")
    assert flat["nodes"]["up"]["parameters"]["move"] == {"formula": "vec3(0, height_2, height_2)"}
    assert flat["dials"]["height_2"] == {"type": "number", "value": RISING}
    for frame in (0, 5, 20):
        assert run_graph(flat, node="z", frame=frame).digest == run_graph(made, node="z", frame=frame).digest


def test_a_dial_with_keys_keeps_them_although_reset_goes_back_to_a_default() -> None:
    made = folded({"formula": "vec3(0, height, 0)"}, {"height": {"type": "number", "value": RISING, "default": 5.0}})
    flat, _ = unfold(made, "f")
    for frame in (0, 5, 20):
        assert run_graph(flat, node="z", frame=frame).digest == run_graph(made, node="z", frame=frame).digest
    assert run_graph(made, node="z", frame=5).bounds[0, 1] == pytest.approx(0.0)


def test_a_bound_parameter_takes_keys_as_they_are() -> None:
    keys = {"keys": [{"frame": 0, "value": [0, 0, 0], "way": "straight"}, {"frame": 10, "value": [0, 5, 0]}]}
    made = folded({"dial": "move"}, {"move": {"type": "vector", "value": [0.0, 0.0, 0.0]}}, move=keys)
    flat, _ = unfold(made, "f")
    assert flat["nodes"]["up"]["parameters"]["move"] == keys
    assert run_graph(flat, node="z", frame=4).digest == run_graph(made, node="z", frame=4).digest


def test_a_bound_parameter_takes_the_value_itself() -> None:
    made = folded({"dial": "move"}, {"move": {"type": "vector", "value": [0.0, 0.0, 0.0]}}, move=[1.0, 2.0, 3.0])
    flat, _ = unfold(made, "f")
    assert flat["nodes"]["up"]["parameters"]["move"] == [1.0, 2.0, 3.0]


def test_wires_go_on_through() -> None:
    flat, _ = unfold(folded([0, 1, 0]), "f")
    assert flat["nodes"]["up"]["inputs"] == {"geo": ["a"]}
    assert flat["nodes"]["z"]["inputs"] == {"geo": ["up"]}
    assert list(flat["nodes"]) == ["a", "up", "z"], "the order of cards stays"


def test_a_name_that_is_taken_outside_gets_a_number() -> None:
    made = folded([0, 1, 0])
    made["nodes"]["up"] = node("grid")
    flat, names = unfold(made, "f")
    assert names == ["up_2"]
    assert flat["nodes"]["z"]["inputs"] == {"geo": ["up_2"]}
    assert flat["nodes"]["up"]["operator"] == "grid"


@pytest.mark.parametrize(
    ("name", "change", "message"),
    [
        ("nobody", {}, "there is no node 'nobody'"),
        ("a", {}, "holds no graph to unfold"),
        ("f", {"operator": "repeat"}, "a loop cannot be unfolded"),
        ("f", {"skip": True}, "this card is skipped"),
    ],
)
def test_what_cannot_be_unfolded_is_refused(name: str, change: dict[str, Any], message: str) -> None:
    made = folded([0, 1, 0])
    made["nodes"]["f"] |= change
    with pytest.raises(GraphError, match=message):
        unfold(made, name)


def test_a_value_that_no_formula_can_hold_is_refused() -> None:
    dials = {"places": {"type": "places", "value": [[0.0, 0.0, 0.0]]}}
    made = folded({"formula": "places"}, dials)
    with pytest.raises(GraphError, match="dial 'places' cannot be written into the formulas"):
        unfold(made, "f")


def test_a_formula_of_several_lines_is_put_in_as_one() -> None:
    value = {"formula": "half = index / 2\nrest = half - 1\nhalf * rest"}
    made = folded({"formula": "vec3(0, rise, 0) * 2"}, {"rise": {"type": "number", "value": 1.0}}, rise=value)
    flat, _ = unfold(made, "f")
    assert flat["nodes"]["up"]["parameters"]["move"] == {"formula": "vec3(0, (index / 2 * (index / 2 - 1)), 0) * 2"}
