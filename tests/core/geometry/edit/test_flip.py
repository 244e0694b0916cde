"""Faces and curves turned round."""

import numpy as np

from reticula.core import Geo, ops
from reticula.core.geometry import measure
from reticula.core.geometry.edit.flip import flipped


def test_turning_twice_changes_nothing(mixed: Geo) -> None:
    full = mixed.with_attribute("corner", "n", np.arange(12)).with_attribute("edge", "e", np.arange(10.0))
    assert flipped(flipped(full)).digest == full.digest


def test_only_what_is_marked_turns_and_the_first_corner_stays(mixed: Geo) -> None:
    turned = flipped(mixed, np.array([True, False, False]), np.zeros(2, bool))
    assert np.allclose(measure.face_normals(turned)[0], -measure.face_normals(mixed)[0])
    assert np.array_equal(measure.face_normals(turned)[1:], measure.face_normals(mixed)[1:])
    assert turned.topology.corner_point[0] == mixed.topology.corner_point[0]
    assert np.array_equal(turned.topology.curve_point, mixed.topology.curve_point)


def test_stored_normals_turn_too() -> None:
    geo = ops.grid(cells=(2, 2))
    stored = geo.with_attribute("point", "normal", measure.point_normals(geo))
    assert np.allclose(flipped(stored).attribute("point", "normal"), -measure.point_normals(geo))
    assert np.allclose(flipped(stored, with_normals=False).attribute("point", "normal"), measure.point_normals(geo))
