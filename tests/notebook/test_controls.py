"""A graph and a package with their dials in a notebook: evaluated in the kernel, and what goes wrong is shown."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import pytest

from reticula.core import load_package, ops
from reticula.core.errors import GraphError
from reticula.notebook import controls
from tests.core.graph.building import graph, node

PACKAGE = Path(__file__).parents[1] / "core" / "packages" / "samples" / "version_1.zip"


@pytest.fixture
def document() -> dict[str, Any]:
    nodes = {
        "sheet": node("grid", cells=[6, 6]),
        "lifted": node("transform", "sheet", move={"formula": "vec3(0, height, 0)"}),
        "marked": node("group", "lifted", where="area > 5"),
    }
    dials = {
        "height": {"type": "number", "value": 2.0, "low": 0, "high": 5, "unit": "m", "help": "How far up"},
        "word": {"type": "text", "value": "reef"},
        "tide": {"type": "number", "value": {"keys": [{"frame": 1, "value": 0.0}]}},
        "on": {"type": "toggle", "value": True},
        "profile": {"type": "response curve", "value": [[0, 0], [1, 1]]},
    }
    return graph(nodes, dials=dials, looking_at="lifted")


def test_a_graph_follows_its_dials(document: dict[str, Any]) -> None:
    shown = controls(document)
    assert [one["name"] for one in shown.dials] == ["height", "word", "on"]
    assert shown.dials[0] == {
        "name": "height",
        "type": "number",
        "value": 2.0,
        "low": 0,
        "high": 5,
        "unit": "m",
        "help": "How far up",
    }
    assert shown.geo.bounds[0, 1] == 2.0
    shown.values = {"height": 3.5}
    assert shown.geo.bounds[0, 1] == 3.5
    assert shown.shapes[0]["counts"].startswith("49 points")


def test_a_control_begins_at_what_the_dial_is_set_to(document: dict[str, Any]) -> None:
    document["dials"]["height"]["default"] = 0.5  # what others get who use the graph
    shown = controls(document)
    assert shown.dials[0]["value"] == 2.0
    assert shown.geo.bounds[0, 1] == 2.0
    with pytest.raises(GraphError, match="there is no node 'nowhere'"):
        controls(document, node="nowhere")


def test_another_node_and_what_was_found_on_the_way(document: dict[str, Any]) -> None:
    shown = controls(document, node="marked")
    assert shown.notes == ["The group 'marked' is empty: none of 36 faces fits."]


def test_a_package_runs_on_what_is_given() -> None:
    package = load_package(PACKAGE)
    shown = controls(package, ops.box())
    shown.values = {"height": 4.0}
    assert shown.geo.bounds[:, 1].tolist() == [3.5, 4.5]
    shown.values = {"height": 40.0}
    assert "height: 40 is outside of 0 to 9" in shown.trouble
    assert shown.geo.bounds[:, 1].tolist() == [3.5, 4.5]
    shown.values = {"height": 1.0}
    assert shown.trouble == ""
    assert controls(package, geo=ops.box()).geo.bounds[:, 1].tolist() == [0.5, 1.5]


def test_missing_and_unknown_inputs_are_said(document: dict[str, Any]) -> None:
    with pytest.raises(GraphError, match="needs a mesh for 'geo'"):
        controls(load_package(PACKAGE))
    with pytest.raises(GraphError, match=r"there are 0 inputs \(none\), not 1"):
        controls(document, ops.box())
    with pytest.raises(GraphError, match="there is no input 'reef'; there are geo"):
        controls(load_package(PACKAGE), reef=ops.box())
