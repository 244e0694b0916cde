"""Smooth subdivide: rules at borders, what is carried, what is computed once."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.errors import LimitError
from reticula.core.language import evaluate
from tests.helpers import bumpy, is_closed


def test_polygons_of_any_size_become_quads(mixed: Geo) -> None:
    fine = ops.smooth_subdivide(mixed)
    assert fine.counts["faces"] == 12
    assert fine.counts["points"] == 9 + 10 + 3
    assert (fine.topology.face_size == 4).all()
    assert fine.topology.euler_characteristic == mixed.topology.euler_characteristic
    assert fine.topology.curve_point.tolist() == mixed.topology.curve_point.tolist()
    assert fine.positions[8].tolist() == [9, 9, 9], "a loose point stays"


@pytest.mark.parametrize(("corners", "first"), [("keep", -0.5), ("round", -0.375)])
def test_corners_of_a_sheet(corners: str, first: float) -> None:
    """A border is a cubic B-spline: the end of a side moves by 1/8 towards both neighbours."""
    fine = ops.smooth_subdivide(ops.grid(cells=(1, 1)), corners=corners)
    assert fine.positions[:, 0].min() == pytest.approx(-0.5)
    assert fine.positions[0, 0] == pytest.approx(first)


def test_a_flat_sheet_stays_flat_and_keeps_its_border_straight() -> None:
    fine = ops.smooth_subdivide(ops.grid(cells=(4, 4)), levels=2, corners="keep")
    assert not fine.positions[:, 1].any()
    assert np.abs(fine.positions[:, [0, 2]]).max() == 0.5


def test_point_attributes_get_the_weights_of_positions(cube: Geo) -> None:
    fine = ops.smooth_subdivide(cube.with_attribute("point", "place", cube.positions), levels=2)
    assert np.array_equal(fine.attribute("point", "place"), fine.positions)


def test_uv_is_interpolated_inside_its_own_face(cube: Geo) -> None:
    fine = ops.smooth_subdivide(cube)
    uv = fine.attribute("corner", "uv").reshape(-1, 4, 2)
    assert uv[:, 2].tolist() == [[0.5, 0.5]] * 24, "the face's middle"
    assert sorted({tuple(v) for v in uv.reshape(-1, 2).tolist()}) == [(a, b) for a in (0, 0.5, 1) for b in (0, 0.5, 1)]


def test_groups_labels_and_edge_values(cube: Geo) -> None:
    geo = cube.with_attribute("face", "label", np.array(list("abcdef"))).with_attribute(
        "edge", "crease", np.arange(12.0) + 1
    )
    fine = ops.smooth_subdivide(geo)
    assert fine.attribute("face", "label").tolist() == [c for c in "abcdef" for _ in range(4)]
    values, counts = np.unique(fine.attribute("edge", "crease"), return_counts=True)
    assert values.tolist() == list(range(12)), "one level was used up"
    assert counts.tolist() == [26] + [2] * 11, "two halves of each old edge; edges across faces have none"


def test_stencils_are_made_once_per_topology(cube: Geo) -> None:
    first = ops.smooth_subdivide(cube, levels=2)
    second = ops.smooth_subdivide(cube.with_positions(cube.positions * 3), levels=2)
    assert first.topology is second.topology
    assert np.allclose(second.positions, first.positions * 3)


def test_too_many_faces_are_refused_before_they_are_made() -> None:
    with pytest.raises(LimitError, match=r"8 levels would make .* Take fewer levels"):
        ops.smooth_subdivide(ops.grid(cells=(100, 100)), levels=8)


def test_nothing_to_do(notes: list[Note]) -> None:
    cube = ops.box()
    assert ops.smooth_subdivide(cube, levels=0) is cube
    assert ops.smooth_subdivide(Geo.empty()).counts["points"] == 0
    assert notes[-1].text == "There are no faces to subdivide."


def test_non_manifold_edges_are_kept_like_borders() -> None:
    fan = Geo.from_faces([[0, 0, 0], [0, 0, 1], [1, 0, 0], [-1, 0, 0], [0, 1, 0]], [[0, 1, 2], [0, 1, 3], [0, 1, 4]])
    fine = ops.smooth_subdivide(fan)
    assert np.isfinite(fine.positions).all()
    middle = fine.positions[5 + fan.topology.corner_edge[0]]
    assert middle.tolist() == [0, 0, 0.5]


@given(st.integers(0, 2**32 - 1))
def test_weights_sum_to_one_and_euler_stays(seed: int) -> None:
    """Translation: moving a random polygon mesh moves its subdivision by the same; the surface keeps its kind."""
    rng = np.random.default_rng(seed)
    geo = ops.remove(
        ops.extrude(ops.geodesic_sphere(frequency=2), where="random(2) < 0.4", distance=0.2), where="random(5) < 0.2"
    )
    geo = geo.with_positions(geo.positions + rng.normal(size=geo.positions.shape) * 0.05)
    fine = ops.smooth_subdivide(geo)
    moved = ops.smooth_subdivide(geo.with_positions(geo.positions + [1, 2, 3]))
    assert np.allclose(moved.positions, fine.positions + [1, 2, 3])
    assert fine.topology.euler_characteristic == geo.topology.euler_characteristic


def test_an_infinitely_sharp_box_stays_a_box(cube: Geo) -> None:
    hard = cube.with_attribute("edge", "crease", np.full(12, 99.0))
    fine = ops.smooth_subdivide(hard, levels=3)
    assert np.abs(fine.positions).max(axis=1) == pytest.approx(np.ones(fine.counts["points"]))
    as_group = cube.with_attribute("edge", "sharp", np.ones(12, bool))
    assert np.allclose(ops.smooth_subdivide(as_group, levels=3, crease="sharp").positions, fine.positions)


def test_sharpness_wears_off_level_by_level(cube: Geo) -> None:
    """Sharpness 1 is sharp for one level: from then on it is the smooth surface over that level's mesh."""
    first = ops.smooth_subdivide(cube.with_attribute("edge", "crease", np.full(12, 1.0)))
    assert np.abs(first.positions).max(axis=1) == pytest.approx(np.ones(26))
    second = ops.smooth_subdivide(cube.with_attribute("edge", "crease", np.full(12, 1.0)), levels=2)
    again = ops.smooth_subdivide(first.without_attribute("edge", "crease"))
    assert np.allclose(second.positions, again.positions)


@pytest.mark.parametrize("where", ["", "position.y > -0.5"])
@pytest.mark.parametrize("sharpness", [0.4, 1.0, 2.5, 9.0])
def test_one_call_after_the_other_is_one_call(sharpness: float, where: str) -> None:
    rough = ops.split_faces(ops.box(cells=(2, 2, 2)))
    rough = ops.set_attribute(rough, kind="edge", name="crease", value=f"{sharpness} if position.y > 0.2 else 0.0")
    rough = ops.set_attribute(rough, name="corner_crease", value="1.5 if position.x > 0.4 else 0.0")
    rough = rough.with_attribute("face", "some", evaluate(where or "True", rough, "face", "flag").array)
    once = ops.smooth_subdivide(rough, levels=3, where="some")
    made = rough
    for _ in range(3):
        made = ops.smooth_subdivide(made, where="some")
    assert made.positions == pytest.approx(once.positions)
    assert made.attribute("edge", "crease") == pytest.approx(once.attribute("edge", "crease"))
    assert once.attribute("edge", "crease").max() == pytest.approx(max(sharpness - 3, 0))


def test_part_of_a_level_blends_both_rules(cube: Geo) -> None:
    sizes = [
        np.linalg.norm(ops.smooth_subdivide(cube.with_attribute("edge", "crease", np.full(12, s))).positions[8])
        for s in (0.0, 0.5, 1.0)
    ]
    assert sizes[1] == pytest.approx((sizes[0] + sizes[2]) / 2)


def test_a_sharp_point_stays_where_it_is(cube: Geo) -> None:
    tip = cube.with_attribute("point", "corner_crease", np.arange(8) == 3)
    fine = ops.smooth_subdivide(tip, levels=2)
    assert fine.positions[3].tolist() == cube.positions[3].tolist()
    assert np.linalg.norm(fine.positions[2]) < np.sqrt(3)


def test_weight_blends_to_the_flat_shape(cube: Geo) -> None:
    smooth, flat = ops.smooth_subdivide(cube, levels=2), ops.smooth_subdivide(cube, levels=2, weight=0)
    half = ops.smooth_subdivide(cube, levels=2, weight=0.5)
    assert np.abs(flat.positions).max(axis=1) == pytest.approx(np.ones(flat.counts["points"]))
    assert half.positions == pytest.approx((smooth.positions + flat.positions) / 2)
    tinted = cube.with_attribute("point", "place", cube.positions).with_attribute("point", "heat", cube.positions[:, 0])
    made = ops.smooth_subdivide(tinted, levels=2, weight="0.3 + 0.5 * step(0, position.x)")
    assert made.attribute("point", "place") == pytest.approx(made.positions), "values follow the weight as places do"
    assert made.attribute("point", "heat") == pytest.approx(made.positions[:, 0])
    one_side = ops.smooth_subdivide(cube, levels=2, weight="step(0, position.x)")
    assert one_side.positions[:, 0].max() == pytest.approx(smooth.positions[:, 0].max())
    assert one_side.positions[:, 0].min() == pytest.approx(-1)


def test_loop_cuts_other_faces_first_and_keeps_uv_inside_faces(cube: Geo, notes: list[Note]) -> None:
    fine = ops.smooth_subdivide(cube, scheme="loop", levels=2)
    assert fine.counts["faces"] == 12 * 16
    assert (fine.topology.face_size == 3).all()
    assert "cut into triangles first" in notes[0].text
    uv = fine.attribute("corner", "uv")
    assert uv.min() == 0
    assert uv.max() == 1
    flat = ops.smooth_subdivide(ops.triangulate(ops.grid(cells=(3, 3))), scheme="loop", corners="keep", levels=2)
    place = flat.positions[flat.topology.corner_point][:, [0, 2]] * [1, -1] + 0.5
    inside = (np.abs(place - 0.5) < 0.16).all(axis=1)
    assert flat.attribute("corner", "uv")[inside] == pytest.approx(place[inside], abs=1e-9)


@pytest.mark.parametrize("scheme", ["catmull-clark", "loop"])
@given(seed=st.integers(0, 10_000))
def test_a_part_is_smoothed_and_the_rest_stays(scheme: str, seed: int) -> None:
    ball = bumpy(seed, 2)
    some = np.random.default_rng(seed).random(ball.topology.face_count) < 0.5
    marked = ball.with_attribute("face", "some", some).with_attribute("point", "place", ball.positions)
    made = ops.smooth_subdivide(marked, where="some", scheme=scheme, levels=2)
    assert is_closed(made)
    assert made.topology.euler_characteristic == 2
    others = np.unique(ball.topology.corner_point[~some[ball.topology.corner_face]])
    assert made.positions[others].tobytes() == ball.positions[others].tobytes()
    assert np.array_equal(made.attribute("point", "place"), made.positions)


def test_all_faces_marked_is_the_whole(cube: Geo) -> None:
    assert ops.smooth_subdivide(cube, where="True", levels=2).digest == ops.smooth_subdivide(cube, levels=2).digest


def test_inside_a_large_part_it_is_the_usual_surface() -> None:
    sheet = ops.set_attribute(
        ops.grid(cells=(9, 9)), name="position", value="position + vec3(0, noise(position * 5), 0)"
    )
    part = ops.smooth_subdivide(sheet, where="max(abs(position.x), abs(position.z)) < 0.45")
    whole = ops.smooth_subdivide(sheet)
    middle = np.flatnonzero(np.abs(sheet.positions[:, [0, 2]]).max(axis=1) < 0.3)
    assert part.positions[middle] == pytest.approx(whole.positions[middle])


def test_nothing_marked(cube: Geo, notes: list[Note]) -> None:
    assert ops.smooth_subdivide(cube, where="False") is cube
    assert "nothing was subdivided" in notes[0].text
