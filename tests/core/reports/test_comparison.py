"""What differs between two geometries: counts, attributes of every kind of values, distances."""

from __future__ import annotations

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.geometry import Attribute
from reticula.core.reports.comparison import compare


def told(geo: Geo, other: Geo) -> dict[str, str]:
    return {one.name: one.what for one in compare(geo, other).attributes}


def test_counts_and_distances_in_world_space() -> None:
    before = ops.box()
    after = ops.split_faces(ops.transform(before, move=(0, 3, 0)))
    found = compare(after, before)
    assert found.counts["faces"] == (24, 18)
    assert found.farthest == pytest.approx(3.0)
    assert found.moved == 26
    assert compare(Geo.empty(), before).counts["points"] == (0, -8)


def test_new_gone_another_type_and_changed() -> None:
    heat = ops.box().with_attribute("face", "heat", np.arange(6.0))
    other = ops.box().with_attribute("face", "heat", np.arange(6)).with_attribute("face", "old", np.ones(6))
    assert told(heat, other) == {"heat": "integer before, number now", "old": "gone"}
    assert told(other, ops.box()) == {"heat": "new", "old": "new"}
    assert told(heat.with_attribute("face", "heat", np.array([0.0, 1, 2, 3, 4, 9])), heat) == {"heat": "1 of 6 changed"}


def test_no_number_is_like_no_number() -> None:
    values = np.array([0.0, np.nan, 2, 3, 4, 5])
    before = ops.box().with_attribute("face", "heat", values)
    assert told(before.with_attribute("face", "heat", values.copy()), before) == {}
    assert told(before.with_attribute("face", "heat", np.nan_to_num(values)), before) == {"heat": "1 of 6 changed"}


def test_lists_are_compared_element_by_element() -> None:
    def with_lists(values: list[float], start: list[int]) -> Geo:
        return ops.box().with_attribute(
            "face", "near", Attribute("number list", np.array(values, float), np.array(start))
        )

    before = with_lists([1, 2, 3, 4], [0, 2, 3, 4, 4, 4, 4])
    assert told(with_lists([1, 2, 3, 4], [0, 2, 3, 4, 4, 4, 4]), before) == {}
    assert told(with_lists([1, 9, 3, 9], [0, 2, 3, 4, 4, 4, 4]), before) == {"near": "2 of 6 changed"}
    assert told(with_lists([1, 2, 3, 4], [0, 1, 3, 4, 4, 4, 4]), before) == {"near": "2 of 6 changed"}


def test_faces_and_curves_that_go_over_other_points() -> None:
    places = [(0, 0, 0), (1, 0, 0), (1, 1, 0), (0, 1, 0)]
    square, turned = (Geo.from_faces(places, [face]) for face in ([0, 1, 2, 3], [1, 2, 3, 0]))
    assert compare(turned, square).rewired == ["faces"]
    assert compare(square, square).rewired == []
    assert compare(ops.split_faces(square), square).rewired == []
    assert compare(ops.circle(segments=6), ops.line(segments=6)).rewired == ["curves"]
