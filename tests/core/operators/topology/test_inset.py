"""Inset: shrink each face inside itself and close the gap with a ring of four-cornered faces."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.geometry import measure


class TestInset:
    def test_distance_is_the_width_of_the_ring(self) -> None:
        made = ops.inset(ops.grid(cells=(2, 2)), distance=0.1)
        assert made.counts["faces"] == 4 + 16
        assert measure.face_areas(made)[made.group("face", "inner")] == pytest.approx(np.full(4, 0.3**2))
        assert measure.face_areas(made).sum() == pytest.approx(1)

    def test_fraction_goes_towards_the_middle(self) -> None:
        made = ops.inset(ops.grid(cells=(1, 1)), by="fraction", fraction=0.5)
        assert measure.face_areas(made)[0] == pytest.approx(0.25)

    def test_triangles_shrink_with_parallel_edges(self) -> None:
        triangle = Geo.from_faces([[0, 0, 0], [4, 0, 0], [0, 3, 0]], [[0, 1, 2]])
        made = ops.inset(triangle, distance=0.5)
        assert measure.face_areas(made)[0] == pytest.approx(6 * 0.5**2), (
            "half of the radius of the inner circle is left"
        )

    @pytest.mark.parametrize("limit", ["each face", "smallest"])
    def test_stops_before_faces_cross_themselves(self, limit: str, notes: list[Note]) -> None:
        sheet = Geo.from_faces(
            [[0, 0, 0], [1, 0, 0], [1, 1, 0], [0, 1, 0], [1.2, 0, 0], [1.2, 1, 0]], [[0, 1, 2, 3], [1, 4, 5, 2]]
        )
        made = ops.inset(sheet, distance=0.3, limit=limit)
        assert np.einsum("ij,ij->i", measure.area_vectors(made), np.tile([0, 0, 1], (10, 1))).min() > 0
        small = measure.face_areas(made)[made.group("face", "inner")]
        assert small[1] == pytest.approx(0, abs=1e-3)
        assert small[0] == pytest.approx(0.16 if limit == "each face" else 0.64, abs=1e-2)
        assert "held back" in notes[0].text

    def test_a_hollow_corner_moves_inwards_too(self) -> None:
        shape = Geo.from_faces([[0, 0, 0], [2, 0, 0], [2, 2, 0], [1, 2, 0], [1, 1, 0], [0, 1, 0]], [[0, 1, 2, 3, 4, 5]])
        made = ops.inset(shape, distance=0.1)
        assert made.positions[10] == pytest.approx([1.1, 0.9, 0])
