"""Values of inner points as even as possible between those around them."""

import numpy as np

from reticula.core import ops
from reticula.core.geometry.remesh.harmonic import Harmonic


def test_inner_values_are_the_mean_of_their_neighbours() -> None:
    geo = ops.grid(cells=(6, 6))
    shape = geo.topology
    order = np.argsort(~shape.border_points, kind="stable")
    number = np.empty(shape.point_count, np.int64)
    number[order] = np.arange(shape.point_count)
    renumbered = shape.with_faces(shape.point_count, shape.face_start, number[shape.corner_point])
    border = int(shape.border_points.sum())
    rim = geo.positions[order[:border]]
    made = Harmonic(border, renumbered, 0).apply(rim)
    assert np.allclose(made[:border], rim)
    assert np.allclose(made, geo.positions[order], atol=1e-9), "a plane is harmonic"
