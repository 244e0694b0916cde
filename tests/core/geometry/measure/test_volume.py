"""Volumes against closed forms and trimesh."""

from __future__ import annotations

import numpy as np
import pytest
import trimesh

from reticula.core import ops
from reticula.core.errors import GeometryError
from reticula.core.geometry import Geo
from reticula.core.geometry.measure.volume import volume


def test_a_box_holds_its_sides_multiplied_wherever_it_is() -> None:
    far = ops.transform(ops.box(size=(2.0, 0.5, 3.0)), move=(1e4, -1e4, 5.0))
    assert volume(far) == pytest.approx(3.0, rel=1e-9)
    assert volume(ops.reverse(far)) == pytest.approx(-3.0, rel=1e-9)


def test_polygons_and_holes_are_as_trimesh_says() -> None:
    ring = ops.torus()
    assert volume(ring) == pytest.approx(ring.to_trimesh().volume, rel=1e-9)
    cut = ops.dual(ops.geodesic_sphere())
    parts = ops.triangulate(cut)
    assert volume(cut) == pytest.approx(
        trimesh.Trimesh(parts.positions, np.reshape(parts.topology.corner_point, (-1, 3)), process=False).volume
    )


def test_an_open_surface_holds_nothing() -> None:
    with pytest.raises(GeometryError, match="open borders; fill them"):
        volume(ops.grid())
    assert volume(Geo.empty()) == 0.0
