"""Motion of points and placed shapes. Closed forms: tests/reference/test_motion_over_time.py."""

from __future__ import annotations

import numpy as np
import pytest

from reticula.core.errors import GraphError
from reticula.core.graph.evaluation.evaluator import run_graph
from tests.core.graph.building import graph, node
from tests.core.operators.time.moving import TIME, at, moved, velocity_of


def test_elements_are_found_by_name_while_others_come_and_go() -> None:
    document = moved("vec3(0, 3 * time, 0)", last=node("motion", "thinned"))
    document["nodes"]["dense"] = node("split_faces", "moved")
    document["nodes"]["thinned"] = node("remove", "dense", where="frame == 4 and index == 0", kind="face")
    here = at(document, 5)
    np.testing.assert_allclose(velocity_of(here), np.tile([0, 3, 0], (21, 1)), atol=1e-9)


def test_new_elements_have_the_velocity_that_is_given_for_these() -> None:
    document = moved("vec3(0, 3 * time, 0)", last=node("motion", "thinned", missing=[7, 0, 0], scheme="backward"))
    document["nodes"]["thinned"] = node("remove", "moved", where="frame < 5 and position.x > 0", kind="point")
    velocity = velocity_of(at(document, 5))
    new = at(document, 5).positions[:, 0] > 0
    np.testing.assert_allclose(velocity[new], np.tile([7, 0, 0], (4, 1)))
    np.testing.assert_allclose(velocity[~new], np.tile([0, 3, 0], (4, 1)), atol=1e-9)


def test_an_element_that_is_there_at_one_of_two_frames_has_the_difference_to_that_one() -> None:
    document = moved("vec3(0, time * time, 0)", last=node("motion", "thinned"))
    document["nodes"]["thinned"] = node("remove", "moved", where="frame < 5 and position.x > 0", kind="point")
    here = at(document, 5)
    new = here.positions[:, 0] > 0
    velocity = velocity_of(here)[:, 1]
    np.testing.assert_allclose(velocity[~new], 1.0)
    np.testing.assert_allclose(velocity[new], (0.36 - 0.25) / 0.1)


def test_placed_shapes_move() -> None:
    document = moved("vec3(2 * time, 0, 0)", last=node("motion", "placed", of="instance"))
    document["nodes"]["bead"] = node("box", size=[0.1, 0.1, 0.1])
    document["nodes"]["placed"] = node("place_instances", "moved", inputs={"shapes": ["bead"]})
    velocity = at(document, 5).attribute("instance", "velocity")
    np.testing.assert_allclose(velocity, np.tile([2, 0, 0], (len(velocity), 1)), atol=1e-9)


def test_a_place_that_moves_is_motion_too() -> None:
    keys = {"keys": [{"frame": 0, "value": [0, 0, 0], "way": "straight"}, {"frame": 10, "value": [5, 0, 0]}]}
    document = graph(
        {
            "block": node("box"),
            "placed": node("transform", "block", move=keys),
            "last": node("motion", "placed"),
        },
        time=TIME,
    )
    np.testing.assert_allclose(velocity_of(at(document, 5)), np.tile([5, 0, 0], (8, 1)), atol=1e-9)


def test_names_that_are_empty_make_nothing_and_metres_are_counted_from_a_frame_on() -> None:
    asked = node("motion", "moved", velocity="", speed="", acceleration="", path_length="way", since=2)
    here = at(moved("vec3(0, abs(frame - 4), 0)", last=asked), 6)
    assert "velocity" not in here.attributes["point"]
    np.testing.assert_allclose(here.attribute("point", "way"), 4.0)


def test_a_way_of_too_many_frames_is_told() -> None:
    asked = node("motion", "moved", path_length="way", since=-1e6)
    with pytest.raises(GraphError, match="is the most"):
        at(moved("vec3(0, 0, 0)", last=asked), 6)


def test_the_same_frame_is_the_same_in_any_order() -> None:
    document = moved("vec3(sin(time), 0, 0)", last=node("motion", "moved"))
    there = [run_graph(document, node="last", frame=frame).digest for frame in (3, 9, 3.5)]
    assert there == [at(document, frame).digest for frame in (3, 9, 3.5)]
