"""Curves of where points were."""

from __future__ import annotations

import numpy as np
import pytest

from reticula.core.errors import GraphError
from tests.core.graph.building import node
from tests.core.operators.time.moving import at, moved

RISING = "vec3(0, frame, 0)"


def test_a_path_leads_from_then_to_now_with_the_age_of_each_place() -> None:
    made = at(moved(RISING, last=node("paths_over_time", "moved", back=3)), 10)
    assert made.counts["curves"] == 8
    first = made.topology.curve_point[: made.topology.curve_start[1]]
    np.testing.assert_allclose(made.positions[first, 1], [7, 8, 9, 10])
    np.testing.assert_allclose(made.attribute("point", "age")[first], [0.3, 0.2, 0.1, 0.0])


def test_it_goes_back_to_a_frame_in_steps() -> None:
    made = at(moved(RISING, last=node("paths_over_time", "moved", whole_way=True, since=2, every=2.5)), 10)
    first = made.topology.curve_point[: made.topology.curve_start[1]]
    np.testing.assert_allclose(made.positions[first, 1], [2.5, 5, 7.5, 10])


def test_curves_carry_what_their_points_have_now() -> None:
    document = moved(RISING, last=node("paths_over_time", "marked", where="position.x > 0"))
    document["nodes"]["marked"] = node("set_attribute", "moved", name="heat", value="frame")
    made = at(document, 10)
    np.testing.assert_allclose(made.attribute("curve", "heat"), [10] * 4)


def test_a_path_begins_where_its_point_has_been_there_ever_since() -> None:
    document = moved(RISING, last=node("paths_over_time", "thinned", back=5))
    document["nodes"]["thinned"] = node("remove", "moved", where="position.x > 0 and frame == 7", kind="point")
    sizes = np.diff(at(document, 10).topology.curve_start)
    assert sorted(sizes) == [3] * 4 + [6] * 4
    document["nodes"]["thinned"]["parameters"]["where"] = "position.x > 0 and frame < 10"
    assert at(document, 10).counts["curves"] == 4


def test_too_long_a_way_is_told() -> None:
    asked = node("paths_over_time", "moved", whole_way=True, since=-1e6)
    with pytest.raises(GraphError, match="is the most"):
        at(moved(RISING, last=asked), 6)
