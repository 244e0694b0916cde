"""What checks find is a fault only where neither what came in nor the operator explains it."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import collecting
from reticula.core.errors import ReticulaError
from reticula.core.geometry import Topology
from reticula.core.geometry.edit.placement import to_world
from reticula.core.geometry.validation.checks import find_defects
from reticula.core.graph.inspection.expected_findings import brought_by, unexpected
from reticula.core.graph.nesting.graph_operator import operator_of
from reticula.core.operators import OPERATORS, Operator
from tests.core.graph.building import graph, node
from tests.helpers import bumpy

FINDINGS = {
    "open borders",
    "crowded edges",
    "pinched points",
    "turned faces",
    "bent faces",
    "faces without area",
    "double faces",
    "loose points",
    "points in one place",
}
MEETS_ITSELF = {"drape", "mirror"}
"""Operators that lay a closed shape on itself if told to: that is a fault of the result."""


def strange(geo: Geo, given: list[Geo], what: dict[str, Any]) -> set[str]:
    return unexpected(
        find_defects(to_world(geo)), geo, {source: find_defects(to_world(source)) for source in given}, what
    )


def variants(entry: Operator) -> Iterator[dict[str, Any]]:
    yield {}
    for parameter in entry.parameters:
        yield from (
            {parameter.name: option} for option in getattr(parameter, "options", {}) if option != parameter.default
        )
        if parameter.widget == "toggle":
            yield {parameter.name: not parameter.default}


@pytest.mark.parametrize("name", sorted(OPERATORS))
def test_no_operator_alarms_over_a_healthy_shape(name: str) -> None:
    entry = OPERATORS[name]
    tool = ops.transform(ops.sphere(segments=12, rings=6, radius=0.4), move=(0.3, 0.4, 0.1))
    for geo in (bumpy(1), ops.displace(ops.grid(cells=(6, 6)))) if entry.inputs else (Geo.empty(),):
        sources = [[geo, tool] if one.many else geo if i == 0 else tool for i, one in enumerate(entry.inputs)]
        given = [geo, tool][: max(len(entry.inputs), 2 if any(one.many for one in entry.inputs) else 1)]
        for values in variants(entry):
            with collecting():
                try:
                    made = entry.run(sources, entry.check(values))
                except ReticulaError:
                    continue
            for result in made:
                found = strange(result, given if entry.inputs else [], {"operator": name, "parameters": values})
                closed = not geo.topology.border_edges.any()
                assert not found or name in MEETS_ITSELF or (name == "boolean" and not closed), values


def test_what_operators_say_they_bring_is_what_checks_find() -> None:
    for entry in OPERATORS.values():
        assert set(entry.brings) <= FINDINGS, entry.name
        for when in entry.brings.values():
            assert when is None or entry.parameter(when[0]).check(when[1]) == when[1]


def test_what_came_in_is_explained_as_far_as_it_came_in() -> None:
    crossed = Geo.of(
        [[0, 0, 0], [1, 0, 0], [0, 1, 0], [0, -1, 0], [0, 0, 1]], Topology(5, [0, 3, 6, 9], [0, 1, 2, 1, 0, 3, 0, 1, 4])
    )
    split = ops.split_faces(crossed)
    what = {"operator": "split_faces", "parameters": {}}
    assert strange(crossed, [], {"operator": "project_shape", "parameters": {}}) == {"crowded edges"}
    assert strange(split, [crossed], what) == set()
    assert strange(split, [ops.split_faces(ops.box())], what) == {"crowded edges", "open borders"}


def test_a_solid_that_opens_alarms_unless_its_operator_opens_things() -> None:
    box = ops.box()
    lid = ops.remove(box, kind="face", where="index == 0")
    assert strange(lid, [box], {"operator": "transform", "parameters": {}}) == {"open borders"}
    assert strange(lid, [box], {"operator": "remove", "parameters": {}}) == set()
    assert strange(lid, [], {"operator": "transform", "parameters": {}}) == set()


def test_a_graph_as_an_operator_brings_what_those_in_it_bring() -> None:
    inner = graph({"apart": node("unshare", "reef")}, inputs=("reef",), outputs={"geo": "apart"})
    made = graph({"block": node("box"), "folded": node("folded", graph=inner, inputs={"reef": ["block"]})})
    assert brought_by(operator_of(made["nodes"]["folded"]), {}) == {"points in one place", "open borders"}
