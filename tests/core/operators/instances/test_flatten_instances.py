"""Flatten instances: turn instances into points."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.geometry import measure
from tests.helpers import volume


def test_mirrored_shapes_still_look_outwards() -> None:
    points = Geo.of([[0, 0, 0]]).with_attribute("point", "scale", np.array([[-1.0, 1, 1]]))
    shape = ops.box().with_attribute("point", "normal", measure.point_normals(ops.box()))
    mesh = ops.flatten_instances(ops.place_instances(points, shape, turn="not"))
    assert volume(mesh) == pytest.approx(1)
    assert mesh.attribute("point", "normal") == pytest.approx(measure.point_normals(mesh))


def test_shapes_within_shapes() -> None:
    ring = ops.place_instances(ops.circle(segments=5), ops.box(size=(0.1, 0.1, 0.1)), turn="not")
    rings = ops.place_instances(ops.line(segments=2), ring, turn="not")
    assert ops.flatten_instances(rings).counts["faces"] == 3 * 5 * 6


def test_point_values_pass_on(notes: list[Note]) -> None:
    sheet = ops.set_attribute(ops.grid(cells=(1, 1)), name="heat", value="index * 1.5")
    made = ops.place_instances(sheet, ops.box(), keep_geo=True)
    assert made.attribute("instance", "heat").tolist() == [0, 1.5, 3, 4.5]
    assert made.counts["faces"] == 1
    mesh = ops.flatten_instances(made, onto="face")
    assert mesh.attribute("face", "heat").tolist()[1:] == np.repeat([0, 1.5, 3, 4.5], 6).tolist()
