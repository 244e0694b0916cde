"""Inset, split faces, triangulate, dual, unshare, weld, reverse, mirror, smooth, borders and parts."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import LimitError, ParameterError
from reticula.core.geometry import measure
from tests.helpers import bumpy, is_closed, outward, volume

SQUARE = "max(abs(position.x), abs(position.z)) < 0.3"


def some_faces(geo: Geo, seed: int, share: float = 0.4) -> Geo:
    return geo.with_attribute("face", "some", np.random.default_rng(seed).random(geo.topology.face_count) < share)


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


class TestSplitFaces:
    @pytest.mark.parametrize(("into", "faces"), [("quads", 24), ("triangles", 48), ("fan", 24)])
    def test_shape_stays(self, cube: Geo, into: str, faces: int, notes: list[Note]) -> None:
        made = ops.split_faces(cube, into=into)
        assert made.counts["faces"] == faces
        assert volume(made) == pytest.approx(8)
        assert is_closed(made)
        assert made.positions[:8].tobytes() == cube.positions.tobytes()

    @pytest.mark.parametrize("into", ["quads", "triangles"])
    @pytest.mark.parametrize("seam", ["corners", "triangles"])
    @given(seed=st.integers(0, 10_000))
    def test_random_parts_again_and_again_stay_watertight(self, into: str, seam: str, seed: int) -> None:
        made = bumpy(seed, 2)
        before = volume(made)
        for step in range(3):
            made = ops.split_faces(some_faces(made, seed + step), where="some", into=into, seam=seam)
        assert is_closed(made)
        assert made.topology.euler_characteristic == 2
        assert volume(made) == pytest.approx(before)
        smooth = ops.smooth_subdivide(made)
        assert is_closed(smooth)

    def test_open_seams_leave_neighbours_alone(self) -> None:
        sheet = ops.grid(cells=(2, 1))
        made = ops.split_faces(sheet, where="index == 0", seam="open")
        assert made.topology.face_size.tolist() == [4, 4, 4, 4, 4]
        assert made.topology.border_edges.sum() == 2 * 4 + 4, "the seam is open on both sides"

    def test_neighbours_that_change_are_named(self) -> None:
        made = ops.split_faces(ops.grid(cells=(3, 1)), where="index == 0", levels=2)
        assert made.topology.face_size[made.group("face", "seam")].tolist() == [4 + 3]
        assert made.group("face", "split").sum() == 16

    def test_corner_values_are_interpolated(self) -> None:
        made = ops.split_faces(ops.grid(cells=(2, 2)), levels=2)
        place = made.positions[made.topology.corner_point]
        assert made.attribute("corner", "uv") == pytest.approx(place[:, [0, 2]] * [1, -1] + 0.5)

    @pytest.mark.slow
    def test_a_limit_is_said(self) -> None:
        with pytest.raises(LimitError, match="Take fewer levels"):
            ops.split_faces(ops.grid(cells=(100, 100)), levels=10)


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


class TestDual:
    def test_a_box_becomes_an_octahedron(self, cube: Geo) -> None:
        made = ops.dual(cube)
        assert made.counts["points"] == 6
        assert made.topology.face_size.tolist() == [3] * 8
        assert outward(made).min() > 0
        assert is_closed(made)

    def test_values_change_places(self, cube: Geo) -> None:
        made = ops.dual(cube.with_attribute("face", "side", np.arange(6)).with_attribute("point", "tip", np.arange(8)))
        assert made.attribute("point", "side").tolist() == list(range(6))
        assert made.attribute("face", "tip").tolist() == list(range(8))

    @pytest.mark.parametrize(("border", "area"), [("close", 1.0), ("leave", 0.25)])
    def test_open_borders(self, border: str, area: float, notes: list[Note]) -> None:
        made = ops.dual(ops.grid(cells=(2, 2)), border=border)
        assert measure.area_vectors(made)[:, 1].sum() == pytest.approx(area)

    def test_twice_gives_the_counts_back(self) -> None:
        ball = ops.geodesic_sphere(frequency=3)
        again = ops.dual(ops.dual(ball))
        assert again.counts["points"] == ball.counts["points"]
        assert again.counts["faces"] == ball.counts["faces"]


class TestWeldAndUnshare:
    def test_unshare_and_weld_are_inverse(self, cube: Geo) -> None:
        apart = ops.unshare(cube)
        assert apart.counts["points"] == 24
        assert apart.topology.border_edges.sum() == 24
        again = ops.weld(apart, radius=0)
        assert again.counts == cube.counts
        assert is_closed(again)

    def test_a_region_parts_from_the_rest(self) -> None:
        made = ops.unshare(ops.grid(cells=(4, 4)), where="index < 8", apart_from="the rest")
        assert made.counts["points"] == 25 + 5
        assert made.topology.point_piece.max() == 1

    def test_a_chain_does_not_collapse(self, notes: list[Note]) -> None:
        row = Geo.of(np.stack([np.arange(10) * 0.1, np.zeros(10), np.zeros(10)], axis=1))
        made = ops.weld(row, radius=0.11)
        assert made.counts["points"] == 5
        assert made.positions[0, 0] == pytest.approx(0.05), "the mean of both"
        assert ops.weld(row, radius=0.11, values="first").positions[0, 0] == 0

    def test_values_are_averaged_and_collapsed_faces_go(self) -> None:
        sheet = ops.grid(cells=(3, 1)).with_attribute("point", "heat", np.arange(8.0))
        narrow = sheet.with_positions(sheet.positions * [0.001, 1, 1])
        made = ops.weld(narrow, radius=0.01, where="index == 1 or index == 2 or index == 5 or index == 6")
        assert made.counts["faces"] == 2
        assert made.attribute("point", "heat").tolist() == [0, 1.5, 3, 4, 5.5, 7]

    def test_a_face_that_touches_itself_is_cut_there(self) -> None:
        bow = Geo.from_faces(
            [[0, 0, 0], [1, 0, 0], [1, 1, 0], [2, 1, 0], [2, 2, 0], [1.0001, 1, 0]], [[0, 1, 2, 3, 4, 5]]
        )
        made = ops.weld(bow, radius=0.01)
        assert made.topology.face_size.tolist() == [3, 3]
        assert made.group("point", "welded").tolist() == [False, False, True, False, False]

    def test_nothing_near_is_said(self, cube: Geo, notes: list[Note]) -> None:
        assert ops.weld(cube).topology is cube.topology
        assert "No two points" in notes[0].text


class TestReverseAndMirror:
    def test_reverse_faces(self, cube: Geo) -> None:
        made = ops.reverse(cube)
        assert volume(made) == pytest.approx(-8)
        assert made.topology.corner_point[::4].tolist() == cube.topology.corner_point[::4].tolist(), (
            "first corners stay"
        )
        assert np.array_equal(ops.reverse(made).positions, cube.positions)
        assert ops.reverse(made).topology.corner_point.tolist() == cube.topology.corner_point.tolist()

    def test_reverse_curves(self, mixed: Geo) -> None:
        made = ops.reverse(mixed, kind="curve")
        assert made.topology.curve_point.tolist() == [4, 1, 0, 3, 2, 7]

    def test_half_a_box_becomes_a_whole_one(self) -> None:
        half = ops.remove(ops.transform(ops.box(cells=(1, 2, 1)), move=(0.5, 0, 0)), where="normal.x < -0.5")
        made = ops.mirror(half)
        assert is_closed(made)
        assert volume(made) == pytest.approx(2)
        assert made.group("face", "mirrored").sum() == half.counts["faces"]
        assert ops.mirror(half, keep_original=False).counts == half.counts
        with pytest.raises(ParameterError, match="give the mirror's normal"):
            ops.mirror(half, direction=(0, 0, 0))

    def test_instances_are_mirrored(self) -> None:
        wedge = Geo.from_faces(
            [[0, 0, 0], [1, 0, 0], [0, 2, 0], [0, 0, 3]], [[0, 2, 1], [0, 1, 3], [0, 3, 2], [1, 2, 3]]
        )
        placed = ops.place_instances(ops.transform(ops.grid(cells=(1, 1)), move=(3, 0, 0)), wedge)
        made = ops.flatten_instances(ops.mirror(placed, direction=(1, 1, 0), keep_original=False))
        wanted = ops.mirror(ops.flatten_instances(placed), direction=(1, 1, 0), keep_original=False)
        assert made.positions == pytest.approx(wanted.positions)
        assert volume(made) == pytest.approx(volume(ops.flatten_instances(placed)))
        assert ops.mirror(placed).topology.instance_count == 2 * placed.topology.instance_count

    def test_stored_normals_are_mirrored(self) -> None:
        half = ops.transform(ops.box(), move=(2, 0, 0))
        half = half.with_attribute("point", "normal", measure.point_normals(half))
        made = ops.mirror(half)
        assert made.attribute("point", "normal") == pytest.approx(measure.point_normals(made))


class TestSmooth:
    def test_volume_is_kept_better_than_by_plain_means(self) -> None:
        rough = bumpy(1, 8)
        kept = ops.smooth(rough, iterations=20)
        plain = ops.smooth(rough, iterations=20, keep="nothing")
        assert abs(volume(kept) / volume(rough) - 1) < 0.02
        assert volume(plain) / volume(rough) < 0.93
        assert measure.edge_lengths(kept).std() < measure.edge_lengths(rough).std()

    def test_pins_borders_and_other_points(self, notes: list[Note]) -> None:
        sheet = ops.grid(cells=(6, 6))
        rough = sheet.with_positions(sheet.positions + np.random.default_rng(2).normal(0, 0.03, (49, 3)))
        made = ops.smooth(rough, where="position.x < 0")
        still = rough.topology.border_points | (rough.positions[:, 0] >= 0)
        assert made.positions[still].tobytes() == rough.positions[still].tobytes()
        assert (made.positions[~still] != rough.positions[~still]).any()


class TestBordersAndParts:
    def test_region_borders(self, notes: list[Note]) -> None:
        sheet = ops.set_attribute(ops.grid(cells=(4, 1)), name="zone", kind="face", value="index // 2")
        made = ops.region_borders(sheet, label="zone", split=True)
        assert ops.region_borders(sheet, label="zone").group("edge", "region_border").sum() == 1
        assert made.topology.point_piece.max() == 1
        box = ops.region_borders(ops.box(cells=(2, 2, 2)))
        assert box.group("edge", "region_border").sum() == 24
        with pytest.raises(ParameterError, match="takes a face attribute"):
            ops.region_borders(sheet, label="nothing")

    def test_pull_apart_by_pieces_and_labels(self) -> None:
        two = ops.join(ops.transform(ops.box(), move=(-1, 0, 0)), ops.transform(ops.box(), move=(1, 0, 0)))
        made = ops.pull_apart(two, amount=1)
        assert made.bounds[:, 0].tolist() == [-2.5, 2.5]
        assert np.array_equal(made.attribute("point", "rest"), two.positions)
        only = ops.pull_apart(two, amount="piece", keep_rest=False)
        assert only.bounds[:, 0].tolist() == [-1.5, 2.5]
        assert ops.pull_apart(two, where="position.x > 0", amount=1).bounds[:, 0].tolist() == [-1.5, 2.5]

    def test_split_by_group_shares_out_everything(self, mixed: Geo, notes: list[Note]) -> None:
        inside, outside = ops.split_by_group(mixed, where="index == 0")
        assert (inside.counts["faces"], outside.counts["faces"]) == (1, 2)
        assert (inside.counts["curves"], outside.counts["curves"]) == (0, 2)
        assert (outside.positions == [9, 9, 9]).all(axis=1).any(), "the loose point goes outside"
        near, far = ops.split_by_group(mixed, kind="point", where="position.x < 5")
        assert far.counts["points"] == 1
        assert near.counts["points"] == 8

    def test_round_borders(self) -> None:
        made = ops.round_borders(ops.grid(cells=(10, 10)), where=SQUARE)
        on = made.group("point", "round")
        away = np.linalg.norm(made.positions[on], axis=1)
        assert np.ptp(away) < 1e-12
        assert on.sum() == 24
        given_ = ops.round_borders(ops.grid(cells=(10, 10)), where=SQUARE, size="given", radius=0.2)
        assert np.linalg.norm(given_.positions[given_.group("point", "round")], axis=1) == pytest.approx(
            np.full(24, 0.2)
        )

    def test_circles_do_not_overlap(self, notes: list[Note]) -> None:
        sheet = ops.grid(cells=(12, 6), size=(2, 1))
        made = ops.round_borders(
            sheet, where="abs(abs(position.x) - 0.5) < 0.25 and abs(position.z) < 0.25", size="given", radius=0.9
        )
        on = made.positions[made.group("point", "round")]
        assert np.abs(on[:, 0]).min() > 0
        assert "made smaller" in notes[0].text
