"""Triangulate: cut faces into triangles that stay inside them, convex or not."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.geometry import measure, triangles


class TestTriangulate:
    def test_hollow_faces_are_cut_inside(self) -> None:
        shape = Geo.from_faces([[0, 0, 0], [2, 0, 0], [2, 2, 0], [1, 0.5, 0], [0, 2, 0]], [[0, 1, 2, 3, 4]])
        made = ops.triangulate(shape)
        areas = measure.area_vectors(made)[:, 2]
        assert areas.min() > 0
        assert areas.sum() == pytest.approx(measure.area_vectors(shape)[0, 2])

    def test_the_short_diagonal(self) -> None:
        flat = Geo.from_faces([[0, 0, 0], [1, 0, 0], [2, 1, 0], [1, 1, 0]], [[0, 1, 2, 3]])
        made = ops.triangulate(flat)
        lengths = measure.edge_lengths(made)
        assert lengths.max() < np.sqrt(5) - 1e-9

    def test_only_bent_faces(self) -> None:
        sheet = ops.grid(cells=(2, 1))
        bent = sheet.with_positions(sheet.positions + np.array([0, 1, 0]) * (np.arange(6) == 0)[:, None])
        assert ops.triangulate(bent, which="bent").topology.face_size.tolist() == [3, 3, 4]
        assert ops.triangulate(bent, which="bent").group("face", "cut_face").tolist() == [True, True, False]

    def test_order_values_and_edges_stay(self, cube: Geo) -> None:
        named = cube.with_attribute("face", "side", np.arange(6)).with_attribute("edge", "mark", np.arange(12))
        made = ops.triangulate(named)
        assert made.attribute("face", "side").tolist() == np.repeat(np.arange(6), 2).tolist()
        marks, counts = np.unique(made.attribute("edge", "mark"), return_counts=True)
        assert marks.tolist() == list(range(12))
        assert counts.tolist() == [1 + 6] + [1] * 11, "old edges keep their values, the six diagonals have none"


def test_it_cuts_where_measures_rays_and_samples_take_the_face_to_be() -> None:
    bent = ops.set_attribute(
        ops.grid(cells=(9, 9)), name="position", value="position + vec3(0, noise(position * 7), 0)"
    )
    made = ops.triangulate(bent)
    assert np.array_equal(made.topology.corner_point.reshape(-1, 3), bent.topology.corner_point[triangles(bent).corner])
