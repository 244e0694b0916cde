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

    @pytest.mark.parametrize("fraction", [0.89, -0.5, "random(3) * 0.9"])
    def test_a_share_of_the_way_needs_no_limit(self, fraction: object, notes: list[Note]) -> None:
        """A face that stays like itself cannot cross itself, hollow or bent as it may be."""
        star = [
            [np.cos(a) * r, np.sin(a) * r, 0.1 * r] for a, r in zip(np.arange(10) * 0.628, [1, 0.2] * 5, strict=True)
        ]
        shapes = ops.join(Geo.from_faces(star, [range(10)]), ops.dual(ops.geodesic_sphere(frequency=3)))
        made = ops.inset(shapes, by="fraction", fraction=fraction)
        free = ops.inset(shapes, by="fraction", fraction=fraction, limit="none")
        assert np.array_equal(made.positions, free.positions)
        assert not any("held back" in note.text for note in notes)

    def test_a_face_may_not_shrink_past_its_middle(self, notes: list[Note]) -> None:
        made = ops.inset(ops.grid(cells=(2, 1)), by="fraction", fraction="index * 1.5")
        assert measure.face_areas(made)[1] == pytest.approx(0, abs=1e-5)
        assert "held back" in notes[0].text
        assert (measure.area_vectors(made)[:, 1] >= 0).all()

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

    def test_a_region_shrinks_as_one(self) -> None:
        sheet = ops.grid(cells=(4, 4))
        made = ops.inset(sheet, distance=0.1, together=True)
        assert made.counts["faces"] == 16 + 16
        assert measure.face_areas(made)[made.group("face", "inner")].sum() == pytest.approx(0.8**2)
        inside = np.setdiff1d(np.arange(25), sheet.topology.edges[sheet.topology.border_edges])
        assert np.array_equal(made.positions[inside], sheet.positions[inside])

    def test_a_region_shrinks_towards_its_middle(self) -> None:
        made = ops.inset(ops.grid(cells=(4, 4)), by="fraction", fraction=0.5, together=True)
        assert measure.face_areas(made)[:16] == pytest.approx(np.full(16, 1 / 64))

    def test_a_region_stops_before_its_border_meets_the_next_row(self, notes: list[Note]) -> None:
        made = ops.inset(ops.grid(cells=(4, 4)), distance=0.6, together=True)
        assert measure.face_areas(made).sum() == pytest.approx(1)
        assert "1 regions held back" in notes[0].text


DUMBBELL = [(0, 0), (1, 0), (1, 0.4), (2, 0.4), (2, 0), (3, 0), (3, 1), (2, 1), (2, 0.6), (1, 0.6), (1, 1), (0, 1)]


class TestDividing:
    def sheet(self) -> Geo:
        """A dumbbell between two squares, with values on each kind."""
        flat = [*DUMBBELL, (4, 0), (4, 1), (-1, 0), (-1, 1)]
        faces = [[14, 0, 11, 15], list(range(12)), [5, 12, 13, 6]]
        geo = Geo.from_faces([[x, y, 0] for x, y in flat], faces)
        geo = geo.with_attribute("face", "number", np.arange(3.0)).with_attribute("point", "at", np.arange(16.0))
        geo = geo.with_attribute("corner", "turn", np.arange(20.0))
        edges = geo.topology.edges
        return geo.with_attribute("edge", "length", np.linalg.norm(np.diff(geo.positions[edges], axis=1)[:, 0], axis=1))

    def test_parts_follow_behind_and_values_are_kept(self) -> None:
        made = ops.inset(self.sheet(), distance=0.2, limit="divide")
        inner = np.flatnonzero(made.group("face", "inner"))
        assert inner.tolist() == [0, 1, 2, made.counts["faces"] - 1]
        assert measure.face_areas(made)[inner] == pytest.approx([0.36] * 4)
        assert made.attribute("face", "number")[inner].tolist() == [0, 1, 2, 1]
        assert measure.area_vectors(made)[:, 2].min() > 0
        assert measure.face_areas(made).sum() == pytest.approx(4.2)
        corner = np.flatnonzero(made.topology.corner_face == inner[-1])
        point = made.topology.corner_point[corner]
        assert np.array_equal(made.attribute("corner", "turn")[corner], made.attribute("point", "at")[point] + 4)
        old = made.attribute("edge", "length") > 0
        length = np.linalg.norm(np.diff(made.positions[made.topology.edges], axis=1)[:, 0], axis=1)
        assert old.sum() == 18
        assert np.allclose(made.attribute("edge", "length")[old], length[old])

    def test_faces_that_do_not_cross_are_as_without_it(self) -> None:
        made, plain = (
            ops.inset(self.sheet(), distance=0.2, where="index != 1", limit=limit) for limit in ("divide", "none")
        )
        assert np.array_equal(made.positions, plain.positions)
        assert np.array_equal(made.topology.corner_point, plain.topology.corner_point)

    def test_what_vanishes_is_held_just_before(self, notes: list[Note]) -> None:
        made = ops.inset(ops.box(), distance=3.0, limit="divide")
        assert made.counts["faces"] == 6 + 24
        assert measure.face_areas(made)[:6] == pytest.approx(np.full(6, 1e-6), rel=1e-6)
        assert any("6 faces stopped just before nothing was left" in note.text for note in notes)
