"""Which nodes depend on time, and what values with keys are."""

from __future__ import annotations

from typing import Any

import pytest

from reticula.core.context import using
from reticula.core.graph.evaluation.evaluator import Evaluator
from reticula.core.graph.evaluation.store import EvaluationStore
from reticula.core.graph.inspection.time_dependence import keyed_values, timely_nodes
from reticula.core.graph.structure.library import MemoryLibrary
from tests.core.graph.building import graph, node

RISING = {"keys": [{"frame": 0, "value": 0.0, "way": "straight"}, {"frame": 10, "value": 1.0}]}
INNER: dict[str, Any] = graph(
    {"geo": node("input"), "up": node("extrude", "geo", distance="reach"), "free": node("grid")}
) | {
    "dials": {"reach": {"type": "number", "value": 0.5}},
    "inputs": [{"name": "geo"}],
    "outputs": [{"name": "geo", "feed": "up"}],
}
PLAIN = graph({"sheet": node("grid"), "up": node("extrude", "sheet", distance=0.5)})


def timely(document: dict[str, Any], path: str = "") -> set[str]:
    return set(timely_nodes(document, path, EvaluationStore()))


def test_a_graph_without_time_has_none() -> None:
    assert timely(PLAIN) == set()


def test_it_is_worked_out_once_for_a_graph_in_which_nothing_has_keys() -> None:
    document = graph({"sheet": node("grid"), "read": node("transform", "sheet", move="vec3(0, time, 0)")})
    evaluator = Evaluator()
    plan = evaluator.evaluate(document, frame=1).plan
    first = timely_nodes(document, "", evaluator.store, plan)
    assert first == {"read"}
    assert timely_nodes(document, "", evaluator.store, evaluator.evaluate(document, frame=2).plan) is first


def test_keys_names_of_time_dials_and_all_that_hangs_on_them() -> None:
    document = graph(
        {
            "sheet": node("grid"),
            "still": node("extrude", "sheet", distance=0.1),
            "keyed": node("extrude", "sheet", distance=RISING),
            "read": node("transform", "sheet", move="vec3(0, time, 0)"),
            "bound": node("extrude", "sheet", distance={"dial": "reach"}),
            "formula": node("extrude", "sheet", distance="reach * 2"),
            "follows": node("extrude", "sheet", distance="keyed.distance"),
            "after": node("triangulate", "keyed"),
        }
    ) | {"dials": {"reach": {"type": "number", "value": RISING}, "other": {"type": "number", "value": 1}}}
    assert timely(document) == {"keyed", "read", "bound", "formula", "follows", "after"}


def test_states_depend_on_time_and_looking_at_other_frames_does_if_its_input_does() -> None:
    inner = {**INNER, "dials": {}, "nodes": {"geo": node("input"), "up": node("triangulate", "geo")}}
    document = graph(
        {
            "sheet": node("grid"),
            "state": node("evolve", "sheet", graph=inner),
            "told": node("motion", "state"),
            "still": node("motion", "sheet"),
        }
    )
    assert timely(document) == {"state", "told"}


def test_a_dial_of_the_name_hides_the_frame() -> None:
    document = graph({"sheet": node("grid"), "up": node("extrude", "sheet", distance="frame")})
    assert timely(document) == {"up"}
    assert timely(document | {"dials": {"frame": {"type": "number", "value": 1}}}) == set()


@pytest.mark.parametrize(
    ("reach", "source", "inside"),
    [
        (RISING, "grid", {"up"}),
        ("time", "grid", {"up"}),
        ({"dial": "outer"}, "grid", {"up"}),
        (0.5, "grid", set()),
        (0.5, "moving", {"geo", "up"}),
    ],
)
def test_inside_of_a_node_time_comes_by_dials_and_inputs(reach: Any, source: str, inside: set[str]) -> None:
    document = graph(
        {
            "grid": node("grid"),
            "moving": node("transform", "grid", move="vec3(0, time, 0)"),
            "held": node("folded", source, reach=reach) | {"graph": INNER},
        }
    ) | {"dials": {"outer": {"type": "number", "value": RISING}}}
    assert timely(document, "held") == inside
    assert ("held" in timely(document)) == bool(inside)


def test_a_published_operator_with_keys_inside() -> None:
    moving = {**INNER, "nodes": {**INNER["nodes"], "up": node("extrude", "geo", distance=RISING)}}
    document = graph({"grid": node("grid"), "mine": {"operator": "mine@1.0.0", "inputs": {"geo": ["grid"]}}})
    with using(library=MemoryLibrary({"mine@1.0.0": {"graph": moving, "name": "mine", "release": "1.0.0"}})):
        assert timely(document) == {"mine"}
        assert timely(document, "mine") == {"up"}


def test_values_at_the_moment_by_node_and_dial() -> None:
    document = graph({"sheet": node("grid"), "up": node("extrude", "sheet", distance=RISING)}) | {
        "dials": {"reach": {"type": "number", "value": RISING}}
    }
    done = Evaluator().evaluate(document, frame=5)
    nodes, dials = keyed_values(document, done)
    assert nodes == {"up": {"distance": pytest.approx(0.5)}}
    assert dials == {"reach": pytest.approx(0.5)}
    assert keyed_values(PLAIN, Evaluator().evaluate(PLAIN)) == ({}, {})


def test_inside_of_a_node_dials_are_told_that_get_keys_from_there() -> None:
    document = graph({"grid": node("grid"), "held": node("folded", "grid", reach=RISING) | {"graph": INNER}})
    done = Evaluator().evaluate(document, frame=5, level="held")
    assert keyed_values(INNER, done, inside=True) == ({}, {"reach": pytest.approx(0.5)})
