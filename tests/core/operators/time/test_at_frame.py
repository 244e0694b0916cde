"""The input at another frame."""

from __future__ import annotations

import pytest

from reticula.core import ops
from reticula.core.errors import GraphError, ParameterError
from reticula.core.graph.evaluation.evaluator import Evaluator, frames_of, run_graph
from reticula.core.operators.time.at_frame import frame_meant
from tests.core.graph.building import graph, node
from tests.core.operators.time.moving import at, moved

USUAL = {"by": -1.0, "at": 5.0, "first": 2.0, "last": 4.0, "every": 3.0, "speed": 0.5}


@pytest.mark.parametrize(
    ("which", "frames", "meant"),
    [
        ("shift", [0, 3, 3.5], [-1, 2, 2.5]),
        ("at", [0, 9], [5, 5]),
        ("repeat", [1, 2, 3, 4, 5, 8], [4, 2, 3, 4, 2, 2]),
        ("swing", [2, 3, 4, 5, 6, 7, 1], [2, 3, 4, 3, 2, 3, 3]),
        ("every", [0, 2, 3, 4, 5, 6], [-1, 2, 2, 2, 5, 5]),
        ("speed", [2, 4, 3, 0], [2, 3, 2.5, 1]),
    ],
)
def test_which_frame_is_meant(which: str, frames: list[float], meant: list[float]) -> None:
    assert [frame_meant(frame, which=which, **USUAL) for frame in frames] == pytest.approx(meant)


def test_a_part_that_ends_before_it_begins_is_told() -> None:
    with pytest.raises(ParameterError, match="has to come after"):
        frame_meant(0, which="repeat", **{**USUAL, "last": 1.0})


def test_all_that_feeds_it_is_as_it_was_then() -> None:
    document = moved("vec3(0, frame, 0)", last=node("at_frame", "moved", by=-3))
    assert at(document, 8).positions[0, 1] == pytest.approx(5.0)
    assert at(document, 8).digest == run_graph(document, node="moved", frame=5).digest


def test_a_keyed_frame_is_a_course_of_frames() -> None:
    keys = {"keys": [{"frame": 0, "value": 20, "way": "straight"}, {"frame": 10, "value": 0}]}
    document = moved("vec3(0, frame, 0)", last=node("at_frame", "moved", which="at", at=keys))
    assert [at(document, frame).positions[0, 1] for frame in (0, 5, 10)] == pytest.approx([20, 10, 0])


def test_what_is_known_at_the_other_frame_is_not_evaluated_again() -> None:
    document = moved("vec3(0, frame, 0)", last=node("at_frame", "moved", by=-1))
    evaluator = Evaluator()
    evaluator.evaluate(document, frame=4)
    entries = len(evaluator.cache)
    done = evaluator.evaluate(document, frame=5)
    assert done.nodes["last"].state == "done"
    assert len(evaluator.cache) == entries + 2, "moved and last at frame 5; moved at frame 4 is there"


def test_inside_of_a_folded_graph_and_of_loops_the_input_is_of_that_frame_and_round() -> None:
    inner = graph(
        {
            "up": node("script", "geo", source="here.position = position + vec3(0, frame + 100 * iteration, 0)"),
            "back": node("at_frame", "up", by=-2),
        },
        inputs=("geo",),
        outputs={"geo": "back"},
    )
    document = graph({"square": node("grid", cells=[1, 1]), "last": node("repeat", "square", rounds=2, graph=inner)})
    assert at(document, 10).positions[0, 1] == pytest.approx(6.0 + 8.0 + 100.0), (
        "at frame 8 the first round gives frame 6"
    )


def test_inside_of_folded_graphs_it_looks_at_what_comes_in_from_outside_at_that_frame() -> None:
    """The same evaluator for all frames, and an input that is the same at two frames on end."""
    jump = {"keys": [{"frame": 0, "value": [0, 0, 0], "way": "hold"}, {"frame": 9, "value": [0, 5, 0]}]}
    inner = graph({"back": node("at_frame", "geo", by=-1)}, inputs=("geo",), outputs={"geo": "back"})
    outer = graph({"held": node("folded", "geo", graph=inner)}, inputs=("geo",), outputs={"geo": "held"})
    nodes = {
        "square": node("grid", cells=[1, 1]),
        "moved": node("transform", "square", move=jump),
        "one": node("folded", "moved", graph=inner),
        "two": node("folded", "moved", graph=outer),
        "each": node("for_each", "moved", graph=inner),
    }
    for name in ("one", "two", "each"):
        heights = [geo.positions[0, 1] for geo in frames_of(graph(nodes), [9, 10, 11, 9], node=name)]
        assert heights == pytest.approx([0, 5, 5, 0]), name


def test_an_edit_of_what_feeds_a_folded_look_is_seen_though_it_changes_only_another_frame() -> None:
    jump = {"keys": [{"frame": 0, "value": [0, 0, 0], "way": "hold"}, {"frame": 9, "value": [0, 5, 0]}]}
    inner = graph({"back": node("at_frame", "geo", which="at", at=2)}, inputs=("geo",), outputs={"geo": "back"})
    nodes = {
        "square": node("grid", cells=[1, 1]),
        "moved": node("transform", "square", move=jump),
        "one": node("folded", "moved", graph=inner),
    }
    evaluator = Evaluator()
    assert evaluator.evaluate(graph(nodes), frame=20).geo("one").positions[0, 1] == pytest.approx(0)
    nodes["moved"]["parameters"]["move"] = {"keys": [{"frame": 0, "value": [0, 3, 0], "way": "hold"}, jump["keys"][1]]}
    assert evaluator.evaluate(graph(nodes), frame=20).geo("one").positions[0, 1] == pytest.approx(3)


def test_more_looks_in_a_row_than_can_be_followed_are_told() -> None:
    links = {f"n{n}": node("at_frame", f"n{n - 1}" if n else "moved", by=-1) for n in range(40)}
    document = moved("vec3(0, frame, 0)", **links)
    assert at(document, 30, of="n9").positions[0, 1] == pytest.approx(20)
    done = Evaluator().evaluate(document, frame=30)
    first = next(result for result in done.nodes.values() if result.state == "failed")
    assert "looks at other frames lead to each other" in str(first.error)
    assert done.nodes["moved"].state == "done"


def test_two_of_them_add_up() -> None:
    document = moved("vec3(0, frame, 0)", once=node("at_frame", "moved", by=-1), last=node("at_frame", "once", by=-2))
    assert at(document, 8).positions[0, 1] == pytest.approx(5.0)


def test_what_fails_at_the_other_frame_says_at_which() -> None:
    document = moved("vec3(0, frame, 0)", last=node("at_frame", "one", by=-1))
    late = {"keys": [{"frame": 0, "value": 3, "way": "hold"}, {"frame": 8, "value": 0}]}
    document["nodes"]["one"] = node("switch", inputs={"choices": ["moved"]}, chosen=late)
    with pytest.raises(GraphError, match=r"at frame 7: .* 3 is too large"):
        at(document, 8)
    document = moved("vec3(0, 0, 0)", last=node("at_frame", "moved", by=1e9))
    with pytest.raises(GraphError, match="a frame is a number up to"):
        at(document, 8)


def test_a_part_that_is_not_there_at_the_other_frame_is_told() -> None:
    inner = graph({"back": node("at_frame", "geo", by=-1)}, inputs=("geo",), outputs={"geo": "back"})
    document = graph(
        {
            "sheet": node("grid", cells=[2, 1]),
            "one": node("remove", "sheet", where="index == 0 and frame < 8"),
            "apart": node("unshare", "one"),
            "last": node("for_each", "apart", graph=inner),
        }
    )
    assert at(document, 9).counts["faces"] == 2
    with pytest.raises(GraphError, match="at frame 7 there is no round or part 1"):
        at(document, 8)


def test_outside_of_a_graph_nothing_moves() -> None:
    sheet = ops.grid()
    assert ops.at_frame(sheet) is sheet
    assert not ops.motion(sheet).attribute("point", "speed").any()
    assert ops.paths_over_time(sheet, back=2).counts["curves"] == sheet.counts["points"]


def test_a_loop_of_frames_gives_equal_bytes_again() -> None:
    document = moved("vec3(0, frame, 0)", last=node("at_frame", "moved", which="repeat", first=0, last=4))
    assert at(document, 2).digest == at(document, 7).digest == at(document, 102).digest
