"""Extrude: shapes in closed form, regions, groups, attributes, untouched parts, chains."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import Geo, ops
from reticula.core.geometry import measure
from reticula.core.notes import Note
from tests.core.operators.test_shapes import volume


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
    assert np.isfinite(ops.extrude(flat).positions).all()
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
