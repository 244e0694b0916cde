"""Names changed with all that refers to them: nodes, dials, inputs and outputs."""

from typing import Any

import pytest

from reticula.core.errors import GraphError
from reticula.core.graph import run_graph
from reticula.core.graph.editing import rename_dial, rename_node, rename_port
from tests.core.graph.building import graph, node


def document() -> dict[str, Any]:
    inner = graph(
        {"up": node("transform", "geo", move={"formula": "vec3(0, height + iteration, 0)"})},
        inputs=("geo",),
        outputs={"geo": "up"},
        dials={
            "height": {"type": "number", "value": 1.0},
            "extra": {"type": "number", "value": 1.0, "shown_when": {"dial": "height", "value": [1.0]}},
        },
    )
    made = graph(
        {
            "a": node("box", size={"formula": "vec3(wide)"}),
            "r": node("repeat", "a", graph=inner, rounds=2, height=0.5),
            "b": node("transform", "r", move={"formula": "vec3(a.size.x, r.height, 0)"}),
        },
        dials={"wide": {"type": "number", "value": 2.0}},
    )
    made["frames"] = {"one": {"title": "One", "nodes": ["a", "r"]}}
    made["jumps"] = {"1": "a"}
    made["presets"] = {"large": {"wide": 5.0}}
    return made


def bounds(made: dict[str, Any], name: str) -> list[list[float]]:
    return run_graph(made, node=name).bounds.tolist()


def test_a_node_is_renamed_in_wires_links_frames_and_jumps() -> None:
    before = document()
    made, name = rename_node(before, "", "a", "Tile, first")
    assert name == "tile_first"
    assert made["nodes"]["r"]["inputs"] == {"geo": ["tile_first"]}
    assert made["nodes"]["b"]["parameters"]["move"] == {"formula": "vec3(tile_first.size.x, r.height, 0)"}
    assert made["frames"]["one"]["nodes"] == ["tile_first", "r"]
    assert made["jumps"] == {"1": "tile_first"}
    assert list(made["nodes"]) == ["tile_first", "r", "b"]
    assert bounds(made, "b") == bounds(before, "b")
    assert before == document(), "the document given stays as it is"


def test_a_title_that_is_taken_gets_a_number_and_an_empty_one_keeps_the_name() -> None:
    assert rename_node(document(), "", "a", "b")[1] == "b_2"
    assert rename_node(document(), "", "a", "  ")[1] == "a"


def test_a_dial_is_renamed_in_formulas_presets_and_links() -> None:
    made = rename_dial(document(), "", "wide", "width")
    assert made["nodes"]["a"]["parameters"]["size"] == {"formula": "vec3(width)"}
    assert made["presets"] == {"large": {"width": 5.0}}
    assert bounds(made, "b") == bounds(document(), "b")
    inner = rename_dial(document(), "r", "height", "rise")
    assert inner["nodes"]["r"]["parameters"] == {"rounds": 2, "rise": 0.5}
    assert inner["nodes"]["r"]["graph"]["dials"]["extra"]["shown_when"]["dial"] == "rise"
    assert inner["nodes"]["b"]["parameters"]["move"] == {"formula": "vec3(a.size.x, r.rise, 0)"}
    assert bounds(inner, "b") == bounds(document(), "b")


@pytest.mark.parametrize(
    ("path", "dial", "new", "message"),
    [
        ("", "wide", "2nd", "'2nd' is not a name"),
        ("r", "height", "extra", "there is a dial 'extra' already"),
        ("r", "height", "iteration", "inside of loops that is number of this round"),
        ("", "nobody", "x", "there is no dial 'nobody'"),
    ],
)
def test_a_dial_s_name_must_be_free_and_one(path: str, dial: str, new: str, message: str) -> None:
    with pytest.raises(GraphError, match=message):
        rename_dial(document(), path, dial, new)


def test_a_port_is_renamed_on_both_sides() -> None:
    made = rename_port(document(), "r", "inputs", "geo", "tile")
    assert made["nodes"]["r"]["inputs"] == {"tile": ["a"]}
    assert made["nodes"]["r"]["graph"]["inputs"] == [{"name": "tile"}]
    assert made["nodes"]["r"]["graph"]["nodes"]["geo"]["parameters"]["name"] == "tile"
    out = document()
    out["nodes"]["b"]["inputs"]["geo"] = ["r:geo"]
    made = rename_port(out, "r", "outputs", "geo", "result")
    assert made["nodes"]["b"]["inputs"]["geo"] == ["r:result"]
    with pytest.raises(GraphError, match="there is no output 'nobody'"):
        rename_port(document(), "r", "outputs", "nobody", "x")
