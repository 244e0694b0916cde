"""Why an element has a value, one node back at a time."""

from __future__ import annotations

from typing import Any

import pytest

from reticula.core import ops
from reticula.core.context import using
from reticula.core.errors import GeometryError
from reticula.core.graph import Evaluation, Evaluator
from reticula.core.graph.inspection.why import why
from tests.core.graph.building import graph, node


class Shapes:
    """One shape of a project: a sheet with survey values."""

    def __init__(self) -> None:
        sheet = ops.grid(cells=(4, 4))
        self.geo = ops.set_attribute(sheet, name="cover", value="index * 0.1")

    def key(self, name: str) -> str:
        return name

    def load(self, name: str, *, error: float = 0.0) -> Any:
        return self.geo


NODES: dict[str, Any] = {
    "scan": {"operator": "project_shape", "parameters": {"shape": "survey.ply"}},
    "tile": node("grid", size=[0.5, 0.5], cells=[2, 2]),
    "taken": {
        "operator": "transfer_attribute",
        "inputs": {"geo": ["tile"], "source": ["scan"]},
        "parameters": {"attributes": "cover"},
    },
    "lift": {
        "operator": "script",
        "inputs": {"geo": ["taken"]},
        "parameters": {"source": "high = cover * 2\nhere.height = high + 1\nhere.position = position + normal * high"},
    },
    "turned": node("transform", "lift", turn=[0, 90, 0]),
    "end": node("group", "turned", name="tall", kind="point", where="height > 2"),
}


@pytest.fixture(scope="module")
def done() -> Evaluation:
    found = Evaluator().evaluate(graph(NODES), shapes=Shapes())
    assert {name: one.error for name, one in found.nodes.items() if one.error} == {}
    return found


def test_the_node_that_wrote_it_is_found_behind_those_that_carried_it(done: Evaluation) -> None:
    found = why(done, "end", "point", 4, "height")
    assert [one["feed"] for one in found["carried"]] == ["end", "turned"]
    assert (found["wrote"]["feed"], found["operator"]) == ("lift", "script")
    assert found["value"] == f"{done.geo('end').attribute('point', 'height')[4]:.6g}"
    (text,) = found["texts"]
    assert text["writes"] == [2]
    assert dict(text["lines"])[2] == found["value"]


def test_each_value_that_went_in_can_be_asked_in_turn_up_to_the_file(done: Evaluation) -> None:
    first = why(done, "end", "point", 4, "height")
    cover = next(cause for cause in first["causes"] if cause["name"] == "cover")
    assert cover["feed"] == "taken"
    second = why(done, cover["feed"], cover["kind"], cover["element"], "cover")
    assert second["operator"] == "transfer_attribute"
    assert ["attributes", "'cover'"] in second["values"]
    scan = next(cause for cause in second["causes"] if cause["feed"] == "scan")
    third = why(done, "scan", scan["kind"], scan["element"], "cover")
    assert third["how"] == "brought it with the shape that was read"
    assert ["shape", "'survey.ply'"] in third["values"]
    assert third["causes"] == []


def test_a_formula_says_what_it_gave_for_the_element(done: Evaluation) -> None:
    found = why(done, "end", "point", 4, "tall")
    (text,) = found["texts"]
    assert (text["parameter"], text["result"]) == ("where", found["value"])
    assert {cause["name"] for cause in found["causes"]} == {"height"}


def test_a_moved_point_says_where_it_was(done: Evaluation) -> None:
    found = why(done, "end", "point", 0, "position")
    assert (found["operator"], found["how"]) == ("transform", "changed it")
    (cause,) = found["causes"]
    assert (cause["feed"], cause["name"], cause["unit"]) == ("lift", "position", "m")


def test_what_nobody_set_is_worked_out_from_the_points(done: Evaluation) -> None:
    found = why(done, "lift", "face", 1, "area")
    assert "worked out from: area in m²" in found["how"]
    assert [cause["name"] for cause in found["causes"]] == ["position"] * 4
    assert why(done, "end", "point", 2, "index")["causes"] == []


def test_the_first_node_is_where_it_begins(done: Evaluation) -> None:
    found = why(done, "tile", "point", 0, "position")
    assert found["how"] == "made this point with it"
    assert ["cells", "(2, 2)"] in found["values"]


def test_values_of_the_whole_and_of_corners(done: Evaluation) -> None:
    nodes = {
        "sheet": node("grid", cells=[1, 1]),
        "named": node("set_attribute", "sheet", name="batch", kind="whole", value={"formula": "7"}),
        "kept": node("transform", "named"),
    }
    other = Evaluator().evaluate(graph(nodes))
    found = why(other, "kept", "whole", 0, "batch")
    assert (found["wrote"]["feed"], found["value"]) == ("named", "7")
    assert why(other, "kept", "corner", 2, "uv")["wrote"]["feed"] == "sheet"


def test_what_is_not_there_is_said(done: Evaluation) -> None:
    with pytest.raises(GeometryError, match="points have no 'hight' here"):
        why(done, "end", "point", 0, "hight")
    with pytest.raises(GeometryError, match="there are only 9 points here"):
        why(done, "end", "point", 9, "height")


def test_nothing_of_it_needs_a_context() -> None:
    with using():
        assert why(Evaluator().evaluate(graph({"a": node("box")})), "a", "face", 0, "area")["value"] == "1"
