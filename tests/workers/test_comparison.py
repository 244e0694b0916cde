"""What differs between two results: counts, attributes, distances."""

from __future__ import annotations

import pytest

from reticula.core import Geo, ops
from reticula.workers.buffers import BufferFiles
from reticula.workers.comparison import difference


def test_differences_of_counts_attributes_and_distance(buffers: BufferFiles) -> None:
    before = ops.set_attribute(ops.box(), name="heat", value="index")
    after = ops.set_attribute(ops.transform(before, move=(0, 0.25, 0)), name="heat", value="index if index > 3 else 0")
    after = ops.group(after, name="hot", where="index < 2")
    made = difference(after, before, buffers)
    assert made["counts"]["faces"] == (6, 0)
    assert {(entry["name"], entry["what"]) for entry in made["attributes"]} == {
        ("hot", "new"),
        ("heat", "3 of 8 changed"),
        ("position", "8 of 8 changed"),
    }
    assert made["moved"] == 4  # the lower ones slid along the sides
    assert made["farthest"] == pytest.approx(0.25)
    assert difference(before, before, buffers)["attributes"] == []
    assert difference(Geo.empty(), before, buffers)["counts"]["points"] == (0, -8)


def test_what_is_gone_or_of_another_type(buffers: BufferFiles) -> None:
    before = ops.set_attribute(ops.set_attribute(ops.box(), name="heat", value="index"), name="old", value=1)
    after = ops.set_attribute(ops.box(), name="heat", value="0.5 * index")
    told = {(entry["name"], entry["what"]) for entry in difference(after, before, buffers)["attributes"]}
    assert {("old", "gone"), ("heat", "integer before, number now")} <= told


def test_nothing_to_compare_with_is_no_distance(buffers: BufferFiles) -> None:
    made = difference(ops.box(), Geo.empty(), buffers)
    assert (made["moved"], made["farthest"]) == (0, 0.0)
    assert made["counts"]["points"] == (8, 8)


def test_distances_are_told_in_the_world(buffers: BufferFiles) -> None:
    moved = ops.set_place(ops.box(), move=(2, 0, 0))
    made = difference(moved, ops.box(), buffers)
    assert made["farthest"] == pytest.approx(2)
