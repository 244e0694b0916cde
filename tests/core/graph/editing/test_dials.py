"""Parameters made dials at any depth, and set free again."""

from __future__ import annotations

from typing import Any

import pytest

from reticula.core.errors import GraphError, ReticulaError
from reticula.core.graph import Evaluator, check_structure, run_graph
from reticula.core.graph.editing import (
    make_dial,
    rename_dial,
    rename_port,
    unbind_parameter,
)
from reticula.core.graph.nesting.dials import dial_of
from reticula.core.operators import OPERATORS
from tests.core.graph.building import graph, node

SCRIPT = "reach: number(0, 2) = 0.4\nway: toggle = True\nhere.position.y += reach if way else 0\n"


def nested() -> dict[str, Any]:
    inner = graph(
        {"ring": node("torus", radius=0.7), "up": node("extrude", "ring", distance=0.1)}, outputs={"geo": "up"}
    )
    middle = graph({"deep": node("folded", graph=inner)}, outputs={"geo": "deep"})
    return graph({"top": node("folded", graph=middle)})


def test_a_dial_may_be_made_from_three_levels_down() -> None:
    before = run_graph(nested()).digest
    made, name = make_dial(nested(), "top/deep", "ring", "radius", "ring_size", up=2)
    assert name == "ring_size"
    assert made["nodes"]["top"]["graph"]["dials"]["ring_size"]["value"] == 0.7
    assert made["dials"]["ring_size"]["soft"] == list(OPERATORS["torus"].parameter("radius").soft)
    assert made["nodes"]["top"]["graph"]["nodes"]["deep"]["parameters"] == {"ring_size": {"dial": "ring_size"}}
    assert run_graph(made, node="top").digest == before
    assert run_graph(made, node="top", dials={"ring_size": 2.0}).bounds[1, 0] > 2.0
    freed = unbind_parameter(made, "top/deep", "ring", "radius")
    assert freed["nodes"]["top"]["graph"]["nodes"]["deep"]["graph"]["nodes"]["ring"]["parameters"]["radius"] == 0.7
    with pytest.raises(GraphError, match="there are only 2 graphs around"):
        make_dial(nested(), "top/deep", "ring", "radius", up=3)


def test_one_dial_drives_several_parameters() -> None:
    made = graph({"a": node("sphere", radius=2.0), "b": node("sphere", radius=3.0)})
    made, first = make_dial(made, "", "a", "radius", "size")
    made, second = make_dial(made, "", "b", "radius", "size")
    assert first == second == "size"
    assert run_graph(made, node="b").bounds[1, 0] == pytest.approx(2.0, abs=0.05)


def test_controls_of_scripts_become_dials() -> None:
    made = graph({"a": node("grid"), "s": node("script", "a", source=SCRIPT)})
    made, name = make_dial(made, "", "s", "controls.reach")
    made, toggle = make_dial(made, "", "s", "controls.way")
    assert (name, toggle) == ("reach", "way")
    assert made["nodes"]["s"]["parameters"]["controls"] == {"reach": {"dial": "reach"}, "way": {"dial": "way"}}
    assert run_graph(made, node="s", dials={"reach": 1.5}).bounds[1, 1] == 1.5
    assert run_graph(made, node="s", dials={"way": False}).bounds[1, 1] == 0.0


def test_every_parameter_of_every_operator_can_be_a_dial() -> None:
    for name, entry in OPERATORS.items():
        for parameter in entry.parameters:
            if parameter.widget in ("controls", "edits", "strokes") or entry.writes is not None or name == "input":
                continue
            made, dial = make_dial(graph({"n": {"operator": name}}), "", "n", parameter.name)
            assert made["nodes"]["n"]["parameters"][parameter.name] == {"dial": dial}, name
            check_structure(made)
            done = Evaluator().evaluate(made).nodes["n"]
            told = str((done.error or {}).get("message", ""))
            assert "dial" not in told, f"{name}.{parameter.name}: {told}"


def test_a_number_that_is_a_formula_becomes_a_dial_that_holds_it() -> None:
    start = graph({"a": node("box"), "w": node("weld", "a", radius={"formula": "0.6 * extent"})})
    made, dial = make_dial(start, "", "w", "radius")
    assert made["dials"][dial]["value"] == {"formula": "0.6 * extent"}
    check_structure(made)
    assert run_graph(made, node="w").counts == run_graph(start, node="w").counts
    inner = graph({"w": node("weld", "geo")}, inputs=("geo",), outputs={"geo": "w"})
    folded = graph({"a": node("box"), "f": node("folded", "a", graph=inner)})
    made, dial = make_dial(folded, "f", "w", "radius")
    made["nodes"]["f"]["parameters"] = {dial: 1.1}
    assert run_graph(made, node="f").counts["points"] < 8


def test_a_formula_that_varies_is_handed_on() -> None:
    inner = graph(
        {"s": node("set_attribute", "geo", name="v", value={"dial": "amount"})},
        inputs=("geo",),
        outputs={"geo": "s"},
        dials={"amount": {"type": "varying", "value": 0.0, "holds": "any"}},
    )
    outer = graph(
        {"a": node("grid", cells=[2, 2]), "f": node("folded", "a", graph=inner, amount={"formula": "index * 2"})}
    )
    assert run_graph(outer, node="f").attribute("point", "v").tolist() == [0, 2, 4, 6, 8, 10, 12, 14, 16]


def test_names_that_are_taken_or_have_a_meaning_are_refused() -> None:
    made = graph(
        {
            "f": node(
                "folded",
                graph=graph(
                    {"b": node("box")},
                    outputs={"geo": "b", "more": "b"},
                    dials={"one": {"type": "number", "value": 1.0}, "two": {"type": "number", "value": 1.0}},
                ),
            )
        }
    )
    with pytest.raises(GraphError, match="there is a dial 'two' already"):
        rename_dial(made, "f", "one", "two")
    with pytest.raises(GraphError, match="inside of loops that is number of this round"):
        rename_dial(made, "f", "one", "iteration")
    with pytest.raises(GraphError, match="is not a name"):
        rename_dial(made, "f", "one", "a b")
    with pytest.raises(GraphError, match="there is an output 'more' already"):
        rename_port(made, "f", "outputs", "geo", "more")
    with pytest.raises(GraphError, match="there is no node 'x' to go into"):
        rename_dial(made, "x", "one", "b")


def test_a_list_of_places_becomes_a_dial_that_is_dragged() -> None:
    inner = graph({"line": node("curve_through", places=[[0, 0, 0], [1, 0, 0]])}, outputs={"geo": "line"})
    made, name = make_dial(graph({"top": node("folded", graph=inner)}), "top", "line", "places")
    assert made["nodes"]["top"]["graph"]["dials"][name]["type"] == "places"
    check_structure(made)
    assert run_graph(made, node="top").bounds[1, 0] == 1.0
    made["nodes"]["top"]["parameters"] = {name: [[0, 0, 0], [0, 2, 0], [3, 0, 0]]}
    assert run_graph(made, node="top").bounds[1].tolist() == [3.0, 2.0, 0.0]
    made["nodes"]["top"]["parameters"] = {name: [[0, 0]]}
    with pytest.raises(ReticulaError, match="takes 3 numbers"):
        run_graph(made, node="top")


def test_a_dial_is_dragged_as_the_parameter_was_that_it_was_made_of() -> None:
    made = graph(
        {"a": node("grid"), "cut": node("slice", "a"), "away": node("transform", "a"), "up": node("push", "a")}
    )
    for owner, parameter in (
        ("cut", "direction"),
        ("cut", "through"),
        ("away", "turn"),
        ("away", "scale"),
        ("up", "direction"),
    ):
        made, _ = make_dial(made, "", owner, parameter, f"{owner}_{parameter}")
    check_structure(made)
    shapes = {name: dial_of(name, dial).describe()["handle"] for name, dial in made["dials"].items()}
    assert {name: handle["shape"] for name, handle in shapes.items()} == {
        "cut_direction": "plane",
        "cut_through": "place",
        "away_turn": "turn",
        "away_scale": "scale",
        "up_direction": "direction",
    }
    assert all(handle["at"] == [] for handle in shapes.values())
