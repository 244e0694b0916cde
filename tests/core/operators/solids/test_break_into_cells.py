"""Break into cells: break a solid or sheet into the parts that lie nearest to each centre (Voronoi cells)."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import GeometryError
from reticula.core.geometry import measure
from tests.helpers import bumpy, is_closed, volume


def pieces(geo: Geo) -> list[Geo]:
    return [ops.remove(geo, where=f"cell != {n}") for n in np.unique(geo.attribute("face", "cell"))]


class TestBreakIntoCells:
    @given(st.integers(0, 10_000), st.integers(1, 40))
    def test_pieces_are_watertight_and_make_up_the_whole(self, seed: int, count: int) -> None:
        ball = bumpy(seed)
        centers = Geo.of(np.random.default_rng(seed).uniform(-1, 1, (count, 3)))
        made = ops.break_into_cells(ball, centers)
        assert is_closed(made)
        assert volume(made) == pytest.approx(volume(ball))
        outside = ~made.group("face", "inner")
        assert measure.face_areas(made)[outside].sum() == pytest.approx(measure.face_areas(ball).sum())
        nearest = np.argmin(np.linalg.norm(measure.face_centers(made)[:, None] - centers.positions, axis=2), axis=1)
        away = np.linalg.norm(measure.face_centers(made) - centers.positions[nearest], axis=1)
        own = np.linalg.norm(measure.face_centers(made) - centers.positions[made.attribute("face", "cell")], axis=1)
        assert own == pytest.approx(away, abs=1e-6), "each face lies with its nearest centre"

    def test_where_many_cells_meet_no_face_is_a_sliver(self) -> None:
        ball = ops.sphere(segments=12, rings=6, radius=0.4)
        axis = np.linspace(-0.4, 0.4, 4)
        lattice = Geo.of(np.stack(np.meshgrid(axis, axis, axis), axis=-1).reshape(-1, 3))
        for centers in (ball, lattice):
            made = ops.break_into_cells(ops.box(cells=(2, 1, 1)), centers)
            assert is_closed(made)
            assert volume(made) == pytest.approx(1)
            assert measure.face_areas(made).min() > 1e-8
            edges = made.positions[made.topology.edges]
            assert np.linalg.norm(edges[:, 0] - edges[:, 1], axis=1).min() > 1e-6

    def test_centres_on_a_lattice(self) -> None:
        axis = np.array([-0.25, 0.25])
        centers = Geo.of(np.stack(np.meshgrid(axis, axis, axis), axis=-1).reshape(-1, 3))
        made = ops.break_into_cells(ops.box(cells=(2, 2, 2)), centers)
        assert made.counts["faces"] == 8 * 6
        assert is_closed(made)
        assert [volume(part) for part in pieces(made)] == pytest.approx([1 / 8] * 8, abs=1e-7)

    def test_a_hole_goes_through_the_inner_faces(self) -> None:
        tube = ops.boolean(ops.box(), ops.cylinder(radius=0.3, height=3, segments=16))
        made = ops.break_into_cells(tube, Geo.of([[0, -0.2, 0], [0, 0.3, 0]]))
        assert is_closed(made)
        assert volume(made) == pytest.approx(volume(tube))
        assert made.topology.euler_characteristic == 0 + 0

    def test_sheets_have_no_inner_faces(self, notes: list[Note]) -> None:
        made = ops.break_into_cells(ops.grid(), Geo.of([[-0.3, 0, 0], [0.2, 0, 0.1], [0, 0, -0.4]]))
        assert measure.face_areas(made).sum() == pytest.approx(1)
        assert made.topology.point_piece.max() == 2
        assert not made.group("face", "inner").any()
        assert "has no inside" in notes[0].text
        skin = ops.break_into_cells(ops.box(), Geo.of([[-0.3, 0, 0], [0.2, 0, 0.1]]), make="sheets")
        assert measure.face_areas(skin).sum() == pytest.approx(6)

    def test_first_cells_and_values(self) -> None:
        centers = Geo.of(np.random.default_rng(4).uniform(-0.5, 0.5, (9, 3)))
        box = ops.set_attribute(ops.box(), name="place", value="position")
        made = ops.break_into_cells(box, centers, first_cells=3)
        assert np.unique(made.attribute("face", "cell")).tolist() == [0, 1, 2]
        skin = np.unique(made.topology.corner_point[~made.group("face", "inner")[made.topology.corner_face]])
        assert made.attribute("point", "place")[skin] == pytest.approx(made.positions[skin], abs=1e-6)

    def test_fewer_neighbours_make_larger_pieces(self, notes: list[Note]) -> None:
        centers = Geo.of(np.random.default_rng(4).uniform(-0.5, 0.5, (12, 3)))
        exact = ops.break_into_cells(ops.box(), centers)
        for limits in ({"most_neighbours": 3}, {"neighbour_reach": 0.45}):
            made = ops.break_into_cells(ops.box(), centers, **limits)
            assert "may overlap" in notes[-2].text
            assert is_closed(made)
            assert volume(made) > volume(exact) + 0.1
            assert [volume(a) >= volume(b) - 1e-9 for a, b in zip(pieces(made), pieces(exact), strict=True)] == [
                True
            ] * 12
            assert made.group("face", "inner").any()
        same = ops.break_into_cells(ops.box(), centers, most_neighbours=12, neighbour_reach=9)
        assert same.digest == exact.digest

    def test_no_centres(self, cube: Geo) -> None:
        with pytest.raises(GeometryError, match="give a geometry with points"):
            ops.break_into_cells(cube, Geo.empty())


def test_a_cell_with_a_hundred_neighbours(notes: list[Note]) -> None:
    """A face cut by one cell may have more sides than any face of a usual mesh."""
    angle = np.arange(100) * (2 * np.pi / 100)
    ring = np.stack([0.4 * np.cos(angle), np.zeros(100), 0.4 * np.sin(angle)], axis=1)
    made = ops.break_into_cells(ops.box(cells=(1, 1, 1)), Geo.of(np.concatenate([[[0, 0, 0]], ring])))
    assert is_closed(made)
    assert volume(made) == pytest.approx(1)
    assert made.topology.face_size.max() >= 100
