"""Instances turned into mesh."""

import numpy as np
import pytest

from reticula.core import ops
from reticula.core.errors import LimitError
from reticula.core.geometry.edit import instances
from reticula.core.geometry.edit.instances import flatten
from tests.helpers import volume


def test_copies_stand_where_their_matrices_say() -> None:
    placed = ops.place_instances(ops.line(begin=(0, 0, 0), end=(4, 0, 0), segments=2), ops.box(size=(1, 1, 1)))
    flat = flatten(placed)
    assert flat.counts["faces"] == 18
    assert flat.topology.instance_count == 0
    assert volume(flat) == pytest.approx(3)


def test_mirrored_copies_face_outwards() -> None:
    placed = ops.place_instances(ops.line(segments=1), ops.box())
    matrix = placed.attribute("instance", "transform").copy()
    matrix[:, 0, 0] *= -1
    mirrored = placed.with_attribute("instance", "transform", matrix, "mat4")
    assert volume(flatten(mirrored)) == pytest.approx(volume(flatten(placed)))


def test_too_many_are_refused_before_they_are_made(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(instances, "MOST_CORNERS", 30)
    placed = ops.place_instances(ops.line(segments=1), ops.box())
    with pytest.raises(LimitError, match="48 corners; 30 is the most"):
        flatten(placed)


def test_without_instances_nothing_is_done() -> None:
    geo = ops.box()
    assert flatten(geo) is geo
    assert np.array_equal(flatten(geo).positions, geo.positions)
