"""For each: what makes a part, what a part knows, and what passes by."""

from typing import Any

import numpy as np
import pytest

from reticula.core import Geo
from reticula.core.graph import Evaluator
from tests.core.graph.building import graph, node

INNER = graph(
    {"s": node("set_attribute", "geo", kind="face", name="mine", value={"formula": "part * 10 + parts"})},
    inputs=("geo",),
    outputs={"geo": "s"},
)
STRIP = {
    "a": node("grid", size=[6, 1], cells=[6, 1]),
    "band": node("set_attribute", "a", kind="face", name="band", value={"formula": "index // 2"}),
    "g": node("group", "band", name="first", where="index < 2"),
    "p": node("set_attribute", "g", kind="face", name="place", type="vec3", value={"formula": "position"}),
    "h": node("group", "p", name="second", where="index == 4"),
}


def run(**parameters: Any) -> tuple[Geo, Any]:
    done = Evaluator().evaluate(graph({**STRIP, "e": node("for_each", "h", graph=INNER, **parameters)}))
    return done.geo("e"), done.nodes["e"]


def test_each_connected_part() -> None:
    made, _ = run(over="piece")
    assert made.attribute("face", "mine").tolist() == [1] * 6


def test_each_value() -> None:
    made, _ = run(over="value", attribute="band")
    assert made.attribute("face", "mine").tolist() == [3, 3, 13, 13, 23, 23]


def test_each_group_and_the_rest_passes_by() -> None:
    made, _ = run(over="group", groups="first second")
    assert sorted(made.attribute("face", "mine")) == [0, 0, 0, 2, 2, 12]


def test_each_element() -> None:
    made, _ = run(over="element")
    assert made.attribute("face", "mine").tolist() == [6 + 10 * number for number in range(6)]
    assert made.counts["points"] == 24, "each face stands on points of its own"


def test_no_part_is_said() -> None:
    made, result = run(over="group", groups="none_of_them")
    assert "No group of faces fits 'none_of_them'" in result.notes[0].text
    assert made.counts["faces"] == 6


@pytest.mark.parametrize(
    ("attribute", "message"), [("", "choose an attribute"), ("place", "take an integer, flag, number or text")]
)
def test_what_makes_no_part_is_refused(attribute: str, message: str) -> None:
    done = Evaluator().evaluate(
        graph({**STRIP, "e": node("for_each", "h", graph=INNER, over="value", attribute=attribute)})
    )
    assert done.nodes["e"].state == "failed"
    assert done.nodes["e"].error["parameter"] == "attribute"
    assert message in done.nodes["e"].error["message"]


def test_parts_of_curves() -> None:
    inner = graph({"r": node("resample", "geo", count=9)}, inputs=("geo",), outputs={"geo": "r"})
    done = Evaluator().evaluate(
        graph(
            {
                "a": node("line", segments=2),
                "b": node("circle", segments=8),
                "j": node("join", inputs={"geometries": ["a", "b"]}),
                "e": node("for_each", "j", graph=inner),
            }
        )
    )
    assert np.diff(done.geo("e").topology.curve_start).tolist() == [10, 9]
