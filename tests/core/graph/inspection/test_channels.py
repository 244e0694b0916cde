"""Values with keys of a graph, found and sampled."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from reticula.core.errors import ParameterError
from reticula.core.graph.inspection.channels import channels_of
from tests.core.graph.building import graph, node

RISING = {"keys": [{"frame": 0, "value": 0.0, "way": "straight"}, {"frame": 10, "value": 1.0}]}
SCRIPT = 'size: number(0, 2, unit="m") = 1\nposition = position * size'


def level() -> dict[str, Any]:
    made = graph(
        {
            "sheet": node("grid", cells=[2, 2]),
            "up": node("extrude", "sheet", distance=RISING, where="index < 2"),
            "moved": node(
                "transform",
                "up",
                move={"keys": [{"frame": 0, "value": [0, 0, 0], "way": "straight"}, {"frame": 4, "value": [0, 2, 4]}]},
            ),
            "chosen": node("for_each", over={"keys": [{"frame": 0, "value": "piece"}, {"frame": 2, "value": "value"}]}),
            "told": node("script", "up", source=SCRIPT, controls={"size": RISING}),
            "lost": {"operator": "no such", "parameters": {"a": RISING}},
        }
    )
    made["dials"] = {"reach": {"type": "number", "value": RISING, "unit": "m"}, "still": {"type": "number", "value": 1}}
    return made


def test_dials_parameters_and_controls_with_keys_are_found() -> None:
    found = [(one.node, one.parameter, one.control) for one in channels_of(level())]
    assert found == [
        ("", "reach", ""),
        ("up", "distance", ""),
        ("moved", "move", ""),
        ("chosen", "over", ""),
        ("told", "controls", "size"),
    ]
    assert [one.unit for one in channels_of(level())] == ["m", "m", "m", "", "m"]


def test_they_are_sampled_component_by_component() -> None:
    by_name = {one.control or one.parameter: one for one in channels_of(level())}
    frames = np.array([-1.0, 0.0, 2.0, 10.0])
    distance, move = by_name["distance"].sampled(frames), by_name["move"].sampled(frames)
    assert distance is not None
    assert move is not None
    np.testing.assert_allclose(distance[:, 0], [0, 0, 0.2, 1])
    np.testing.assert_allclose(move, [[0, 0, 0], [0, 0, 0], [0, 1, 2], [0, 2, 4]])
    assert by_name["over"].sampled(frames) is None


def test_keys_that_cannot_be_are_told_when_sampled() -> None:
    made = level()
    made["nodes"]["up"]["parameters"]["distance"] = {"keys": [{"frame": 1, "value": 0}, {"frame": 1, "value": 1}]}
    wrong = next(one for one in channels_of(made) if one.node == "up")
    with pytest.raises(ParameterError, match="does not come after"):
        wrong.sampled(np.zeros(1))
