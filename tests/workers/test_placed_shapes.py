"""Shapes that stand as instances: drawn once each, with the numbers of their instances and their own values."""

from __future__ import annotations

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.errors import ReticulaError
from reticula.workers.buffers import BufferFiles
from reticula.workers.placed_shapes import placed_shapes, sources
from tests.workers.asking import look
from tests.workers.values import values_of


@pytest.fixture
def placed() -> Geo:
    """A box with heat and a sheet without, by turns on the four points of a quad."""
    box = ops.set_attribute(ops.box(), name="heat", kind="point", value="position.y")
    box = ops.group(box, name="top", where="position.y > 0.4", kind="face")
    return ops.place_instances(ops.grid(cells=(1, 1)), [box, ops.grid(cells=(1, 1))], number="index % 2", turn="not")


def test_each_shape_is_there_once_with_its_instances(placed: Geo, buffers: BufferFiles) -> None:
    found = look(placed, {"what": "mesh"}, buffers)["instances"]
    numbers = [values_of(buffers, one["number"]).tolist() for one in found]
    which = np.asarray(placed.attribute("instance", "shape"))
    assert numbers == [np.flatnonzero(which == 0).tolist(), np.flatnonzero(which == 1).tolist()]
    assert [len(members) for _, members in placed_shapes(placed)] == [2, 2]
    assert [one.topology.face_count for one in sources(placed)] == [0, 6, 1]


def test_values_of_shapes_follow_those_of_the_geometry(placed: Geo, buffers: BufferFiles) -> None:
    heat = look(placed, {"what": "attribute", "kind": "point", "name": "heat"}, buffers)
    assert heat["parts"] == [0, 8, 0]
    assert (heat["low"], heat["high"]) == ([-0.5], [0.5])
    area = look(ops.join(placed, ops.box()), {"what": "attribute", "kind": "face", "name": "area"}, buffers)
    assert area["parts"] == [6, 6, 1]
    assert values_of(buffers, area["values"]).shape == (13,)
    with pytest.raises(ReticulaError, match="warmth"):
        look(placed, {"what": "attribute", "kind": "point", "name": "warmth"}, buffers)


def test_what_has_another_type_is_left_out(placed: Geo, buffers: BufferFiles) -> None:
    other = ops.set_attribute(ops.box(), name="heat", kind="point", type="text", value="'hot'")
    found = look(ops.join(placed, other), {"what": "attribute", "kind": "point", "name": "heat"}, buffers)
    assert found["words"] == ["hot"]
    assert found["parts"] == [8, 0, 0]


def test_places_of_shapes_are_not_shown_as_places_of_instances(placed: Geo, buffers: BufferFiles) -> None:
    found = look(placed, {"what": "attribute", "kind": "point", "name": "position"}, buffers)
    assert "parts" not in found


def test_groups_and_uv_of_shapes(placed: Geo, buffers: BufferFiles) -> None:
    found = look(placed, {"what": "groups", "kind": "face"}, buffers)
    assert found["parts"] == [0, 6, 1]
    assert {"name": "top", "members": 1} in found["groups"]
    uv = ops.set_attribute(ops.box(), name="uv", kind="corner", value="vec2(position.x, position.z)")
    sheet = look(ops.place_instances(ops.grid(cells=(1, 1)), [uv]), {"what": "uv"}, buffers)
    assert sheet["parts"] == [0, 24]
    assert sheet["low"] == [-0.5, -0.5]


def test_the_summary_tells_what_only_shapes_have(placed: Geo, buffers: BufferFiles) -> None:
    told = look(placed, {"what": "summary"}, buffers)["placed"]
    assert "heat" in [one["name"] for one in told["point"]]
    assert look(ops.box(), {"what": "summary"}, buffers)["placed"] == {}
