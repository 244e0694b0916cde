"""What the page is told of two results: what differs, and the distance of each point as a buffer."""

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


def test_nothing_to_compare_with_is_no_distance(buffers: BufferFiles) -> None:
    made = difference(ops.box(), Geo.empty(), buffers)
    assert (made["moved"], made["farthest"]) == (0, 0.0)
    assert made["counts"]["points"] == (8, 8)
