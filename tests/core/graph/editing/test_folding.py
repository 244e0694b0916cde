"""Fold and unfold: whatever is folded, the result is the same to the bit."""

from __future__ import annotations

import json
from copy import deepcopy
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from reticula.core.errors import GraphError
from reticula.core.graph import Evaluator, check_structure, run_graph
from reticula.core.graph.editing import fold, rename_dial, rename_node, rename_port, unfold
from reticula.core.graph.editing.formula_texts import slug
from tests.core.graph.building import graph, node
from tests.helpers import examples


def digest(document: dict[str, Any], feed: str) -> str:
    done = Evaluator().evaluate(check_structure(json.loads(json.dumps(document))))
    return done.geo(feed).digest


def chain() -> dict[str, Any]:
    return graph(
        {
            "tile": node("grid", cells=[6, 6]),
            "crest": node("group", "tile", name="crest", where="length(position) < reach"),
            "up": node(
                "extrude", "crest", where="crest", distance={"formula": "height + 0.1 * tile.cells.x * random(2)"}
            ),
            "soft": node("smooth_subdivide", "up", levels={"wire": "levels"}),
            "levels": node("number_value", value=1),
            "last": node("transform", "soft", move={"formula": "vec3(0, up.taper_away if False else 0.5, 0)"}),
        },
        dials={"reach": {"type": "number", "value": 0.3}, "height": {"type": "number", "value": 0.2}},
    )


def test_folding_guesses_inputs_outputs_and_dials() -> None:
    made = chain()
    made["nodes"]["last"]["parameters"] = {}
    folded, name = fold(made, ["crest", "up", "soft"], "Raise the crest")
    assert name == "raise_the_crest"
    new = folded["nodes"][name]
    assert [entry["name"] for entry in new["graph"]["inputs"]] == ["geo"]
    assert new["inputs"] == {"geo": ["tile"]}
    assert new["parameters"] == {
        "height": {"dial": "height"},
        "reach": {"dial": "reach"},
        "levels": {"wire": "levels"},
        "tile_cells": {"formula": "tile.cells"},
    }
    assert folded["nodes"]["last"]["inputs"]["geo"] == [name]
    assert list(folded["nodes"]) == ["tile", name, "levels", "last"]
    assert digest(folded, "last") == digest(made, "last")
    flat, names = unfold(folded, name)
    assert names == ["crest", "up", "soft"]
    assert digest(flat, "last") == digest(made, "last")
    assert flat["nodes"]["up"]["parameters"]["distance"]["formula"] == "height + 0.1 * (tile.cells).x * random(2)"


def test_what_follows_a_folded_parameter_follows_its_dial() -> None:
    made = graph(
        {
            "a": node("box", size=[2, 1, 1]),
            "b": node("transform", "a"),
            "c": node("transform", "b", move={"formula": "a.size"}),
        }
    )
    folded, name = fold(made, ["a", "b"])
    assert folded["nodes"]["c"]["parameters"]["move"] == {"formula": "folded.a_size"}
    assert digest(folded, "c") == digest(made, "c")
    flat, _ = unfold(folded, name)
    assert digest(flat, "c") == digest(made, "c")
    assert flat["nodes"]["c"]["parameters"]["move"] == {"formula": "a.size"}


def test_folding_inside_a_loop_keeps_its_numbers() -> None:
    inner = graph(
        {"m": node("transform", "geo", move={"formula": "vec3(iteration, 0, 0)"}), "n": node("transform", "m")},
        inputs=("geo",),
        outputs={"geo": "n"},
    )
    made = graph({"a": node("box"), "r": node("repeat", "a", graph=inner, rounds=3)})
    before = digest(made, "r")
    made["nodes"]["r"]["graph"], name = fold(inner, ["m"])
    assert made["nodes"]["r"]["graph"]["nodes"][name]["parameters"] == {"iteration_outside": {"formula": "iteration"}}
    assert digest(made, "r") == before


def test_value_nodes_that_others_need_stay_outside_too() -> None:
    made = graph(
        {
            "v": node("number_value", value=2.0),
            "a": node("sphere", radius={"wire": "v"}),
            "b": node("sphere", radius={"wire": "v"}),
            "j": node("join", inputs={"geometries": ["a", "b"]}),
        }
    )
    folded, name = fold(made, ["v", "a"])
    assert "v" in folded["nodes"]
    assert "v" in folded["nodes"][name]["graph"]["nodes"]
    assert digest(folded, "j") == digest(made, "j")


def test_detours_loops_and_skipped_cards_are_refused() -> None:
    made = graph({"a": node("box"), "b": node("transform", "a"), "c": node("join", inputs={"geometries": ["a", "b"]})})
    with pytest.raises(GraphError, match="a wire leads from these cards to 'b' and back; fold that one too"):
        fold(made, ["a", "c"])
    with pytest.raises(GraphError, match="choose the cards to fold"):
        fold(made, [])
    with pytest.raises(GraphError, match="there is no node x"):
        fold(made, ["x"])
    folded, name = fold(made, ["a", "b"])
    folded["nodes"][name]["skip"] = True
    with pytest.raises(GraphError, match="is skipped"):
        unfold(folded, name)
    with pytest.raises(GraphError, match="a loop cannot be unfolded"):
        unfold(graph({"a": node("repeat")}), "a")
    with pytest.raises(GraphError, match="holds no graph"):
        unfold(made, "a")


def test_looking_at_results_frames_and_jumps_follow() -> None:
    made = chain() | {
        "looking_at": "up",
        "result": "last",
        "frames": {"f": {"nodes": ["crest", "up"]}, "g": {"nodes": ["up", "last"]}},
        "jumps": {"rim": "up"},
    }
    made["nodes"]["last"]["parameters"] = {}
    folded, name = fold(made, ["crest", "up"])
    assert folded["looking_at"] == name
    assert folded["result"] == "last"
    assert folded["frames"] == {"g": {"nodes": ["last", name]}}
    assert folded["nodes"][name]["graph"]["frames"] == {"f": {"nodes": ["crest", "up"]}}
    assert folded["jumps"] == {"rim": name}
    flat, _ = unfold(folded, name)
    assert set(flat["frames"]) == {"f", "g"}


# ---- random graphs

STEPS = {
    "transform": {"move": {"formula": "vec3(0, lift * 0.1, 0)"}},
    "smooth_subdivide": {"levels": 1},
    "group": {"where": "random(3) > spread"},
    "set_attribute": {"value": {"formula": "position.y * lift"}},
    "extrude": {"distance": {"formula": "0.05 * lift"}, "where": "index % 5 == 0"},
    "triangulate": {},
}


@st.composite
def documents(draw: st.DrawFn) -> dict[str, Any]:
    nodes: dict[str, Any] = {"n0": node("box"), "n1": node("grid", cells=[2, 2])}
    for number in range(2, draw(st.integers(3, 7))):
        feeds = [f"n{draw(st.integers(0, number - 1))}" for _ in range(2)]
        chosen = draw(st.sampled_from([*STEPS, "join"]))
        if chosen == "join":
            nodes[f"n{number}"] = node("join", inputs={"geometries": feeds})
            continue
        nodes[f"n{number}"] = node(chosen, feeds[0], **json.loads(json.dumps(STEPS[chosen])))
        if chosen == "transform" and draw(st.booleans()):
            nodes[f"n{number}"]["parameters"]["move"] = {"formula": "n0.size * lift"}
    return graph(nodes, dials={"lift": {"type": "number", "value": 0.7}, "spread": {"type": "number", "value": 0.4}})


@settings(max_examples=examples(25))
@given(documents(), st.data())
def test_folding_unfolding_saving_and_reordering_change_nothing(document: dict[str, Any], data: st.DataObject) -> None:
    evaluator = Evaluator()

    def all_of(made: dict[str, Any], names: list[str]) -> dict[str, str]:
        done = evaluator.evaluate(check_structure(json.loads(json.dumps(made))))
        return {
            name: done.geo(name).digest
            for name in names
            if name in made["nodes"] and made["nodes"][name]["operator"] != "folded"
        }

    names = list(document["nodes"])
    before = all_of(document, names)
    shuffled = data.draw(st.permutations(names))
    assert all_of({**document, "nodes": {name: document["nodes"][name] for name in shuffled}}, names) == before
    chosen = data.draw(st.lists(st.sampled_from(names), min_size=1, unique=True))
    try:
        folded, name = fold(document, chosen)
    except GraphError as error:
        assert "and back" in str(error) or "fold both" in str(error)
        return
    after = all_of(folded, names)
    assert after == {key: before[key] for key in after}
    inside = evaluator.evaluate(folded, level=name)
    for key in chosen:
        assert inside.geo(key).digest == before[key]
    flat, _ = unfold(folded, name)
    assert all_of(flat, names) == before
    renamed, new = rename_node(folded, "", name, "Something else")
    assert new == slug("Something else")
    for dial in list(renamed["nodes"][new]["graph"]["dials"]):
        renamed = rename_dial(renamed, new, dial, f"{dial}_new")
    for side in ("inputs", "outputs"):
        for entry in list(renamed["nodes"][new]["graph"][side]):
            renamed = rename_port(renamed, new, side, entry["name"], f"{entry['name']}_new")
    assert all_of(renamed, names) == after


def test_steps_of_a_state_that_the_cards_read_become_dials_of_the_folded_one() -> None:
    source = "here.position = position + vec3(0, age * seconds_per_step + step, 0)"
    inner = graph({"up": node("script", "geo", source=source)}, inputs=("geo",), outputs={"geo": "up"})
    document = graph({"sheet": node("grid"), "state": node("evolve", "sheet", graph=inner)})
    packed, name = fold(inner, ["up"], holder="evolve")
    again = deepcopy(document)
    again["nodes"]["state"]["graph"] = packed
    held = packed["nodes"][name]
    assert held["parameters"] == {
        "age_outside": {"formula": "age"},
        "seconds_per_step_outside": {"formula": "seconds_per_step"},
        "step_outside": {"formula": "step"},
    }
    assert run_graph(again, node="state", frame=6).digest == run_graph(document, node="state", frame=6).digest


def test_outside_of_a_state_these_are_names_as_any_other() -> None:
    document = graph({"sheet": node("grid"), "up": node("set_attribute", "sheet", name="a", value={"formula": "age"})})
    packed, name = fold(document, ["up"])
    assert packed["nodes"][name]["parameters"] == {}
