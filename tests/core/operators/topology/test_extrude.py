"""Extrude: shapes in closed form, regions, groups, attributes, untouched parts, chains."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.geometry import measure
from tests.helpers import is_closed, volume


def test_one_side_of_a_box_makes_a_longer_box(cube: Geo) -> None:
    tall = ops.extrude(cube, where="normal.y > 0.5", distance=3)
    assert tall.counts["points"] == 12
    assert tall.counts["faces"] == 10
    assert volume(tall) == pytest.approx(8 + 12)
    assert tall.bounds[1].tolist() == [1, 4, 1]
    assert tall.group("face", "top").sum() == 1
    assert tall.group("face", "side").sum() == 4


def test_negative_distance_makes_a_pit_with_walls_that_face_into_it(cube: Geo) -> None:
    pit = ops.extrude(
        ops.box(size=(2, 2, 2), cells=(3, 3, 3)), where="normal.y > 0.9 and length(position.xz) < 0.1", distance=-1
    )
    assert volume(pit) == pytest.approx(8 - (2 / 3) ** 2)
    assert not pit.topology.border_edges.any()


def test_a_whole_closed_mesh_only_moves(cube: Geo) -> None:
    grown = ops.extrude(cube, distance=1, walls="straight")
    assert grown.counts == cube.counts
    assert np.allclose(np.linalg.norm(grown.positions, axis=1), np.sqrt(3) + 1)
    even = ops.extrude(cube, distance=1)
    assert np.allclose(even.positions, cube.positions * 2)


def test_together_and_one_by_one(notes: list[Note]) -> None:
    sheet = ops.grid(cells=(3, 1))
    assert ops.extrude(sheet).counts["faces"] == 3 + 8
    apart = ops.extrude(sheet, together=False)
    assert apart.counts["faces"] == 3 + 12
    assert apart.counts["points"] == 8 + 12


def test_faces_that_meet_in_a_point_only_are_separate_regions() -> None:
    sheet = ops.grid(cells=(2, 2))
    both = ops.extrude(sheet, where="index == 0 or index == 3")
    assert both.counts["points"] == 9 + 8
    assert both.counts["faces"] == 4 + 8
    assert both.topology.edge_face_count.max() == 2


def test_distance_per_face_and_per_point() -> None:
    sheet = ops.grid(cells=(2, 1), size=(2, 1))
    stairs = ops.extrude(sheet, together=False, distance="1 + index")
    assert np.unique(stairs.positions[:, 1]).tolist() == [0, 1, 2]
    ramp = ops.extrude(sheet, per="point", distance="position.x + 2")
    raised = ramp.positions[6:]
    assert np.allclose(raised[:, 1], raised[:, 0] + 2)


def test_untouched_parts_stay_to_the_bit(rng: np.random.Generator) -> None:
    sheet = ops.grid(cells=(8, 8))
    sheet = sheet.with_positions(rng.random(sheet.positions.shape))
    made = ops.extrude(sheet, where="index % 3 == 0", distance="random(1)")
    assert made.positions[: len(sheet.positions)].tobytes() == sheet.positions.tobytes()
    kept = np.flatnonzero(np.arange(64) % 3 != 0)
    shape, old = made.topology, sheet.topology
    assert shape.corner_point.reshape(-1, 4)[kept].tolist() == old.corner_point.reshape(-1, 4)[kept].tolist()


def test_attributes_of_every_kind_are_carried() -> None:
    sheet = ops.grid(cells=(2, 1))
    sheet = sheet.with_attribute("point", "heat", np.arange(6.0)).with_attribute("face", "label", np.array(["a", "b"]))
    sheet = sheet.with_attribute("edge", "crease", np.arange(7.0))
    made = ops.extrude(sheet, where="label == 'b'")
    assert made.attribute("point", "heat")[6:].tolist() == sheet.attribute("point", "heat")[[1, 2, 5, 4]].tolist()
    assert made.attribute("face", "label").tolist() == ["a", "b", "b", "b", "b", "b"]
    assert len(made.attribute("corner", "uv")) == 24
    top = {
        frozenset(e): c
        for e, c in zip(made.topology.edges.tolist(), made.attribute("edge", "crease").tolist(), strict=True)
    }
    assert top[frozenset((6, 7))] == top[frozenset((1, 2))], "an edge that was raised keeps its value"
    assert top[frozenset((1, 6))] == 0, "an upright edge has the default"


def test_four_extrusions_in_a_row_reuse_top_and_side(cube: Geo) -> None:
    geo = ops.extrude(cube, where="normal.y > 0.9", distance=1)
    geo = ops.extrude(geo, where="top", distance=0.5, side_group="collar")
    geo = ops.extrude(geo, where="side", distance=0.2, together=False, top_group="fins", side_group="fin_sides")
    geo = ops.extrude(geo, where="fins", distance=0.1, together=False)
    assert geo.counts["faces"] == 10 + 4 + 16 + 16
    assert geo.topology.edge_face_count.max() == 2
    assert not geo.topology.border_edges.any()
    assert geo.topology.euler_characteristic == 2


def test_nothing_marked_and_zero_distance_are_said(cube: Geo, notes: list[Note]) -> None:
    assert ops.extrude(cube, where="area > 100").counts == cube.counts
    ops.extrude(ops.grid(), distance=0)
    warnings = [note.text for note in notes if note.level == "warning"]
    assert warnings == [
        "No face is marked, so nothing was raised.",
        "The distance is 0 everywhere, so the walls have no area.",
    ]


def test_degenerate_input_neither_crashes_nor_makes_nan(notes: list[Note]) -> None:
    flat = Geo.from_faces(np.zeros((4, 3)), [[0, 1, 2], [1, 2, 3]])
    assert np.isfinite(ops.extrude(flat, distance=0.1).positions).all()
    assert any("without area" in note.text for note in notes)
    fan = Geo.from_faces(np.random.default_rng(0).random((5, 3)), [[0, 1, 2], [0, 1, 3], [0, 1, 4]])
    assert ops.extrude(fan).counts["faces"] == 9
    assert ops.extrude(Geo.empty()).counts["points"] == 0
    twice = Geo.from_faces([[0, 0, 0], [1, 0, 0], [1, 1, 0]], [[0, 1, 2, 1]])
    assert np.isfinite(ops.extrude(twice).positions).all()


def test_the_plan_is_made_once_while_only_positions_change(cube: Geo) -> None:
    first = ops.extrude(cube, where="normal.y > 0.5", distance=1)
    second = ops.extrude(cube.with_positions(cube.positions * 2), where="normal.y > 0.5", distance=2)
    assert first.topology is second.topology


@given(st.integers(0, 2**32 - 1), st.booleans(), st.floats(-0.5, 0.5))
def test_closed_stays_closed(seed: int, together: bool, distance: float) -> None:
    """Any choice of faces of a closed mesh, any distance: no open border, Euler characteristic of a sphere."""
    ball = ops.geodesic_sphere(frequency=3)
    chosen = np.random.default_rng(seed).random(180) < 0.4
    made = ops.extrude(
        ball.with_attribute("face", "chosen", chosen), where="chosen", together=together, distance=distance or 0.1
    )
    assert not made.topology.border_edges.any()
    assert np.isfinite(made.positions).all()
    assert measure.face_areas(made).min() >= 0
    if together:
        assert made.topology.edge_face_count.max() == 2
        assert made.topology.euler_characteristic == 2


def test_even_walls_keep_the_thickness_around_a_box_corner(cube: Geo) -> None:
    bowl = ops.remove(cube, where="normal.y < -0.5")
    shell = ops.extrude(bowl, distance=0.5, keep_base=True)
    assert shell.bounds.tolist() == [[-1.5, -1, -1.5], [1.5, 1.5, 1.5]]
    assert volume(shell) == pytest.approx(3 * 3 * 2.5 - 8)
    assert is_closed(shell)
    straight = ops.extrude(bowl, distance=0.5, walls="straight")
    assert straight.bounds[1, 1] < 1.5


def test_keeping_the_base_makes_a_sheet_a_solid() -> None:
    solid = ops.extrude(ops.grid(cells=(4, 3)), distance=0.2, keep_base=True)
    assert is_closed(solid)
    assert volume(solid) == pytest.approx(0.2)
    assert solid.group("face", "base").sum() == 12
    assert not (solid.group("face", "base") & solid.group("face", "top")).any()
    both = ops.extrude(ops.grid(cells=(2, 1)), together=False, distance=0.2, keep_base=True)
    assert volume(both) == pytest.approx(0.2)


def test_divisions_profile_and_rims() -> None:
    post = ops.extrude(
        ops.grid(cells=(1, 1)), distance=1, divisions=4, profile=[[0, 1], [0.5, 2], [1, 1]], keep_base=True
    )
    assert post.counts["faces"] == 2 + 4 * 4
    assert post.group("edge", "rim").sum() == 4 * 4
    widths = [np.ptp(post.positions[np.isclose(post.positions[:, 1], y), 0]) for y in (0, 0.25, 0.5, 1)]
    assert widths[0] == pytest.approx(1)
    assert widths[2] == pytest.approx(2)
    assert widths[3] == pytest.approx(1)
    assert 1 < widths[1] < 2


def test_inset_narrows_the_top() -> None:
    stump = ops.extrude(ops.grid(cells=(3, 3)), distance=0.5, inset=0.1)
    top = stump.positions[np.isclose(stump.positions[:, 1], 0.5)]
    assert np.ptp(top[:, 0]) == pytest.approx(0.8)
    assert np.ptp(stump.positions[:, 0]) == pytest.approx(1)


@pytest.mark.parametrize(
    ("limit", "areas"), [("each region", [0, 1.44]), ("smallest", [0, 2.25]), ("none", [0.09, 1.44])]
)
def test_the_inset_stops_before_the_top_turns_over(limit: str, areas: list[float], notes: list[Note]) -> None:
    sheet = ops.join(ops.grid(cells=(1, 1)), ops.transform(ops.grid(cells=(1, 1), size=(2.5, 2.5)), move=(3, 0, 0)))
    made = ops.extrude(sheet, distance=0.1, inset=0.65, limit=limit)
    up = measure.area_vectors(made)[:2] @ measure.face_normals(sheet)[0]
    assert np.abs(up) == pytest.approx(areas, abs=5e-3)
    assert ("held back" in notes[0].text) == (limit != "none")


def test_inset_alone_makes_walls_with_area(notes: list[Note]) -> None:
    made = ops.extrude(ops.grid(cells=(1, 1)), distance=0.0, inset=0.1)
    assert measure.face_areas(made).sum() == pytest.approx(1)
    assert not [note for note in notes if note.level == "warning"]


def test_along_a_direction_and_with_an_amount() -> None:
    leaning = ops.extrude(
        ops.grid(cells=(1, 1)), along="direction", direction=(3, 4, 0), distance=0.5, amount=2, per="point"
    )
    assert leaning.positions[4:].mean(axis=0) == pytest.approx([0.6, 0.8, 0])
    assert np.ptp(leaning.positions[4:], axis=0) == pytest.approx([1, 0, 1])


def test_variation_hangs_on_identity_not_on_order() -> None:
    sheet = ops.grid(cells=(6, 1))
    whole = ops.extrude(sheet, together=False, distance=0.1, variation=1, seed=3)
    part = ops.extrude(ops.remove(sheet, where="index == 0"), together=False, distance=0.1, variation=1, seed=3)
    heights = np.unique(whole.positions[:, 1].round(12))
    assert len(heights) == 7
    assert set(part.positions[:, 1].round(12)) < set(heights)


def test_distance_per_corner_is_averaged_where_faces_stay_joined() -> None:
    sheet = ops.grid(cells=(2, 1))
    sheet = sheet.with_attribute("corner", "lift", np.repeat([1.0, 3.0], 4))
    made = ops.extrude(sheet, per="corner", distance="lift")
    assert np.unique(made.positions[:, 1].round(9)).tolist() == [0, 1, 2, 3]


def test_edges_become_strips_that_wind_with_their_faces() -> None:
    sheet = ops.grid(cells=(2, 2))
    made = ops.extrude(
        sheet, what="edge", where="border", along="direction", direction=(0, -1, 0), distance=0.3, divisions=2
    )
    assert made.counts["faces"] == 4 + 8 * 2
    assert made.group("face", "side").sum() == 16
    assert made.group("edge", "top").sum() == 8
    border = made.topology.border_edges
    assert border.sum() == 8
    assert (made.topology.corner_across >= 0).sum() == made.topology.corner_count - 8
    assert made.bounds[0, 1] == pytest.approx(-0.3)


def test_points_become_curves(notes: list[Note]) -> None:
    made = ops.extrude(ops.geodesic_sphere(frequency=1), what="point", where="index < 3", distance=0.4, divisions=3)
    assert made.counts["curves"] == 3
    assert np.diff(made.topology.curve_start).tolist() == [4, 4, 4]
    ends = made.positions[made.group("point", "top")]
    assert np.linalg.norm(ends, axis=1) == pytest.approx(np.full(3, 0.9))


def test_four_in_a_row_reuse_top_and_side() -> None:
    made = ops.extrude(ops.box(size=(1, 1, 1)), where="normal.y > 0.5", distance=0.5)
    made = ops.extrude(made, where="top", distance=0.2, inset=0.1)
    made = ops.extrude(made, where="side", together=False, distance=0.1)
    made = ops.extrude(made, where="top", distance=-0.05)
    assert is_closed(made)
    assert made.group("face", "top").sum() == 4
    assert made.topology.euler_characteristic == 2


@given(st.integers(0, 10_000), st.booleans(), st.sampled_from(["even", "straight"]))
def test_any_part_of_a_closed_mesh_stays_closed(seed: int, together: bool, walls: str) -> None:
    ball = ops.geodesic_sphere(frequency=2)
    where = np.random.default_rng(seed).random(ball.topology.face_count) < 0.4
    if not where.any():
        return
    made = ops.extrude(
        ball.with_attribute("face", "some", where), where="some", together=together, walls=walls, divisions=2
    )
    assert (made.topology.edge_face_count % 2 == 0).all()
    assert not made.topology.border_edges.any()
    assert np.isfinite(made.positions).all()


def test_walls_are_in_no_group_of_their_face_unless_asked() -> None:
    """A chain of extrusions goes on from the same mark: the walls of one are not raised by the next."""
    marked = ops.group(ops.grid(cells=(3, 3)), name="peak", where="index == 4")
    tower = marked
    for _ in range(4):
        tower = ops.extrude(tower, where="peak", distance=0.1, inset=0.01)
    assert tower.counts["faces"] == 9 + 4 * 4
    assert tower.group("face", "peak").sum() == 1
    assert ops.extrude(marked, where="peak", mark_walls=True).group("face", "peak").sum() == 5
    assert ops.extrude(marked, where="peak", keep_base=True).group("face", "peak").sum() == 2
