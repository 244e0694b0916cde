"""Slice, boolean, break into cells and fill."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note, collecting
from reticula.core.errors import GeometryError, ParameterError
from reticula.core.geometry import measure
from tests.helpers import bumpy, is_closed, volume

direction = st.tuples(*[st.floats(-1, 1)] * 3).filter(lambda d: np.linalg.norm(d) > 0.1)


class TestSlice:
    @given(st.integers(0, 10_000), direction, st.floats(-0.3, 0.3))
    def test_both_sides_make_up_the_whole(self, seed: int, way: tuple[float, float, float], far: float) -> None:
        ball = bumpy(seed)
        unit = np.array(way) / np.linalg.norm(way)
        above, below = ops.slice(ball, direction=way, through=unit * far)
        assert is_closed(above)
        assert is_closed(below)
        assert volume(above) + volume(below) == pytest.approx(volume(ball))
        assert (above.positions @ unit).min() >= far - 1e-9
        assert (below.positions @ unit).max() <= far + 1e-9

    def test_polygons_stay_polygons_and_caps_are_one_face(self, cube: Geo) -> None:
        above, below = ops.slice(cube)
        assert above.topology.face_size.tolist() == [4] * 6
        assert above.group("face", "cap").sum() == 1
        assert above.group("edge", "cut").sum() == 4
        assert measure.face_normals(above)[above.group("face", "cap")].tolist() == [[0, -1, 0]]
        assert measure.face_normals(below)[below.group("face", "cap")].tolist() == [[0, 1, 0]]

    def test_a_cap_with_a_hole(self) -> None:
        above, below = ops.slice(ops.torus(segments=16, sides=8))
        assert is_closed(above)
        assert above.topology.euler_characteristic == 0
        assert volume(above) == pytest.approx(volume(below))

    def test_through_points_and_along_faces(self) -> None:
        above, _ = ops.slice(ops.box(cells=(2, 2, 2)))
        assert is_closed(above)
        assert above.counts["points"] == 17
        assert volume(above) == pytest.approx(0.5)
        assert measure.face_areas(above).min() > 0.1

    def test_values_are_interpolated_at_the_cut(self) -> None:
        sheet = ops.set_attribute(ops.grid(cells=(1, 1)), name="across", value="position.x")
        above, _ = ops.slice(sheet, direction=(1, 0, 0), through=(0.2, 0, 0), cap=False)
        assert above.attribute("point", "across") == pytest.approx(above.positions[:, 0])
        assert above.attribute("corner", "uv")[:, 0] == pytest.approx(
            above.positions[above.topology.corner_point, 0] + 0.5
        )

    def test_only_cut(self, cube: Geo) -> None:
        joined, _ = ops.slice(cube, keep="joined")
        assert is_closed(joined)
        assert joined.counts["faces"] == 10
        assert joined.group("edge", "cut").sum() == 4

    def test_one_side_only_and_missing_the_mesh(self, cube: Geo, notes: list[Note]) -> None:
        above, below = ops.slice(cube, through=(0, 9, 0), keep="below")
        assert above.counts["faces"] == 0
        assert below.counts["faces"] == 6
        assert "does not cut" in notes[0].text
        with pytest.raises(ParameterError, match="give the plane's normal"):
            ops.slice(cube, direction=(0, 0, 0))

    def test_loose_points_go_to_their_side(self, mixed: Geo, notes: list[Note]) -> None:
        above, below = ops.slice(mixed, direction=(1, 0, 0), through=(5, 0, 0))
        assert above.positions[-1].tolist() == [9, 9, 9]
        assert below.counts["faces"] == 3


class TestBoolean:
    def test_inclusion_and_exclusion_with_attributes(self) -> None:
        a = ops.set_attribute(ops.box(cells=(2, 2, 2)), name="which", kind="face", value="index")
        b = ops.transform(ops.geodesic_sphere(frequency=4, radius=0.4), move=(0.4, 0.3, 0.1))
        made = {how: ops.boolean(a, b, operation=how) for how in ("union", "difference", "intersection")}
        assert all(is_closed(geo) for geo in made.values())
        assert volume(made["union"]) + volume(made["intersection"]) == pytest.approx(volume(a) + volume(b))
        assert volume(made["difference"]) + volume(made["intersection"]) == pytest.approx(volume(a))
        cut = made["difference"]
        old = ~cut.group("face", "from_others")
        which = cut.attribute("face", "which")[old]
        agree = np.einsum("ij,ij->i", measure.face_normals(cut)[old], measure.face_normals(a)[which])
        assert agree == pytest.approx(np.ones(old.sum())), "every face knows the face it is part of"
        assert cut.group("edge", "seam").any()

    def test_faces_that_nothing_cuts_stay_polygons(self) -> None:
        a = ops.box(cells=(4, 1, 1), size=(4, 1, 1))
        made = ops.boolean(a, ops.transform(ops.box(size=(0.5, 2, 0.5)), move=(1.5, 0, 0)))
        assert (made.topology.face_size == 4).sum() >= 12
        assert volume(made) == pytest.approx(4 - 0.25)
        uv = made.attribute("corner", "uv")
        assert uv.min() >= -1e-9
        assert uv.max() <= 1 + 1e-9

    def test_curves_loose_points_and_instances_of_the_first_stay(self, mixed: Geo) -> None:
        first = ops.join(ops.box(), ops.circle(), Geo.of([[9, 9, 9]]), ops.place_instances(ops.line(), ops.cone()))
        made = ops.boolean(first, ops.transform(ops.box(), move=(0.5, 0.5, 0.5)))
        assert made.counts["curves"] == 1
        assert made.counts["instances"] == 2
        assert (made.positions == [9, 9, 9]).all(axis=1).any()
        assert volume(made) == pytest.approx(1 - 1 / 8)

    def test_several_others(self) -> None:
        holes = [ops.transform(ops.cylinder(radius=0.1, height=3, segments=12), move=(x, 0, 0)) for x in (-0.3, 0, 0.3)]
        made = ops.boolean(ops.box(), *holes)
        assert made.topology.euler_characteristic == 2 - 2 * 3

    @pytest.mark.parametrize(
        ("broken", "why"),
        [
            (lambda: ops.remove(ops.box(), where="index == 0"), "open border edges"),
            (lambda: ops.reverse(ops.box()), "look inwards"),
            (lambda: ops.reverse(ops.box(), where="index == 2"), "wind against each other"),
            (lambda: ops.unshare(ops.box()), "weld it first"),
        ],
    )
    def test_what_is_wrong_is_said(self, broken: object, why: str) -> None:
        with pytest.raises(GeometryError, match=why):
            ops.boolean(ops.box(), broken())  # type: ignore[operator]

    def test_nothing_left(self, notes: list[Note]) -> None:
        far = ops.transform(ops.box(), move=(5, 0, 0))
        assert ops.boolean(ops.box(), far, operation="intersection").counts["faces"] == 0
        assert any("do not overlap" in note.text for note in notes)
        assert ops.boolean(ops.box(), operation="union").counts["faces"] == 6


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


def pieces(geo: Geo) -> list[Geo]:
    return [ops.remove(geo, where=f"cell != {n}") for n in np.unique(geo.attribute("face", "cell"))]


class TestFill:
    @pytest.mark.parametrize(("using", "faces"), [("polygon", 1), ("triangles", 10)])
    def test_a_border_is_closed(self, using: str, faces: int) -> None:
        bowl = ops.remove(ops.box(cells=(3, 3, 3)), where="normal.y > 0.5")
        made = ops.fill(bowl, using=using)
        assert is_closed(made)
        assert volume(made) == pytest.approx(1)
        assert made.group("face", "fill").sum() == faces
        assert made.positions[: bowl.counts["points"]].tobytes() == bowl.positions.tobytes()

    @pytest.mark.parametrize("size", [0.01, 1.0, 100.0])
    def test_an_even_mesh_follows_the_size(self, size: float) -> None:
        made = ops.fill(ops.circle(radius=size, segments=48), what="curve", using="even")
        lengths = measure.edge_lengths(made)
        assert 300 < made.counts["faces"] < 420
        assert lengths.max() / lengths.min() < 5
        assert made.topology.border_edges.sum() == 48

    def test_letters_have_holes(self) -> None:
        made = ops.fill(ops.lettering(text="B"), what="curve", using="triangles")
        assert made.topology.euler_characteristic == 1 - 2
        assert (measure.face_normals(made)[:, 1] > 0.999).all()

    def test_three_rings_in_each_other(self) -> None:
        rings = ops.join(*(ops.circle(radius=r, segments=32) for r in (1.0, 0.6, 0.3)))
        made = ops.fill(rings, what="curve", using="triangles")
        circle = 0.5 * 32 * np.sin(2 * np.pi / 32)
        assert measure.face_areas(made).sum() == pytest.approx(circle * (1 - 0.36 + 0.09))

    def test_an_uneven_border_is_spanned_by_a_membrane(self) -> None:
        ring = ops.circle(radius=1, segments=40)
        lifted = ops.set_attribute(ring, name="position", value="position + vec3(0, 0.3 * position.x, 0)")
        made = ops.fill(ops.extrude(ops.fill(lifted, what="curve"), distance=0.1), where="border", using="even")
        inner = made.positions[40 + 40 :]
        assert inner[:, 1] == pytest.approx(0.3 * inner[:, 0], abs=1e-9)

    def test_values_reach_the_inside(self) -> None:
        sheet = ops.remove(ops.grid(cells=(8, 8)), where="length(position) < 0.3")
        sheet = ops.set_attribute(sheet, name="across", value="position.x")
        made = ops.fill(sheet, using="even", where="length(position) < 0.45")
        inside = made.attribute("point", "across")[sheet.counts["points"] :]
        assert np.abs(inside - made.positions[sheet.counts["points"] :, 0]).max() < 0.03

    def test_crossing_outlines_and_open_curves_are_told(self, notes: list[Note]) -> None:
        eight = Geo.of([[0, 0, 0], [1, 0, 1], [1, 0, 0], [0, 0, 1]], ops.rectangle().topology)
        with pytest.raises(GeometryError, match="does not cross itself"):
            ops.fill(eight, what="curve", using="triangles")
        ops.fill(ops.arc(), what="curve")
        assert "open" in notes[0].text


class TestSheets:
    @pytest.mark.parametrize("bend", [0.0, 0.2])
    def test_a_sheet_is_shared_out_by_a_solid(self, bend: float, notes: list[Note]) -> None:
        sheet = ops.set_attribute(
            ops.grid(size=(2, 2), cells=(5, 5)),
            name="position",
            value=f"position + vec3(0, {bend} * sin(position.x * 3), 0)",
        )
        sheet = ops.set_attribute(sheet, name="across", value="position.x")
        ball = ops.geodesic_sphere(frequency=4)
        outside, within, both = (
            ops.boolean(sheet, ball, operation=how) for how in ("difference", "intersection", "union")
        )
        areas = [measure.face_areas(geo).sum() for geo in (outside, within, both)]
        assert areas[2] == pytest.approx(measure.face_areas(sheet).sum())
        assert areas[0] + areas[1] == pytest.approx(areas[2])
        assert both.topology.border_edges.sum() == sheet.topology.border_edges.sum(), "nothing opens along the cut"
        assert within.topology.border_edges.sum() == both.group("edge", "seam").sum()
        assert both.group("face", "inside").sum() == within.counts["faces"]
        assert both.attribute("point", "across") == pytest.approx(both.positions[:, 0], abs=1e-9)
        assert np.linalg.norm(within.positions, axis=1).max() < 0.5 + 1e-9

    def test_a_sheet_is_cut_by_a_sheet(self, notes: list[Note]) -> None:
        wall = ops.transform(ops.grid(size=(3, 3), cells=(1, 1), facing="side"), move=(0.13, 0, 0))
        before = ops.boolean(ops.grid(), wall)
        assert before.bounds[:, 0] == pytest.approx([0.13, 0.5])

    @given(st.floats(-0.7, 0.7), st.floats(-0.7, 0.7), st.floats(0.05, 0.9))
    def test_flat_sheets_by_inclusion_and_exclusion(self, x: float, z: float, radius: float) -> None:
        a = ops.grid(cells=(3, 2))
        b = ops.transform(ops.disc(radius=radius, segments=13, rings=2), move=(x, 0, z))
        with collecting():
            made = {how: ops.boolean(a, b, operation=how) for how in ("union", "difference", "intersection")}
        area = {how: measure.face_areas(geo).sum() for how, geo in made.items()}
        own = measure.face_areas(b).sum()
        assert area["difference"] + area["intersection"] == pytest.approx(1, abs=1e-8)
        assert area["union"] + area["intersection"] == pytest.approx(1 + own, abs=1e-8)
        assert (measure.face_normals(made["union"])[:, 1] > 0.99).all()


def test_a_cell_with_a_hundred_neighbours(notes: list[Note]) -> None:
    """A face cut by one cell may have more sides than any face of a usual mesh."""
    angle = np.arange(100) * (2 * np.pi / 100)
    ring = np.stack([0.4 * np.cos(angle), np.zeros(100), 0.4 * np.sin(angle)], axis=1)
    made = ops.break_into_cells(ops.box(cells=(1, 1, 1)), Geo.of(np.concatenate([[[0, 0, 0]], ring])))
    assert is_closed(made)
    assert volume(made) == pytest.approx(1)
    assert made.topology.face_size.max() >= 100
