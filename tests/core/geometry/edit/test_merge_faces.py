"""Faces merged across edges: outlines, values of the first, holes that stay apart; which edges are flat or alike."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import ops
from reticula.core.geometry import measure
from reticula.core.geometry.edit.merge_faces import equal_across, flat_across, merge_across
from tests.helpers import is_closed, volume

SHEET = ops.grid(size=(3, 3), cells=(3, 3))


def inner(geo, *faces: int):  # type: ignore[no-untyped-def]
    """The edges between some faces."""
    shape = geo.topology
    both = np.isin(shape.corner_face[shape.edge_corners[1]], faces)
    return np.logical_and.reduceat(both, shape.edge_corners[0][:-1]) & ~shape.border_edges


def test_two_quads_are_one_hexagon_with_the_values_of_the_first() -> None:
    sheet = SHEET.with_attribute("face", "number", np.arange(9))
    made, apart = merge_across(sheet, inner(sheet, 0, 1))
    assert apart == 0
    assert made.topology.face_size.tolist() == [6] + [4] * 7
    assert made.attribute("face", "number").tolist() == [0, *range(2, 9)]
    assert measure.face_areas(made) == pytest.approx([2] + [1] * 7)
    assert measure.face_normals(made)[:, 1] == pytest.approx(np.ones(8))


def test_a_point_that_no_face_needs_is_gone() -> None:
    made, _ = merge_across(SHEET, inner(SHEET, 0, 1, 3, 4))
    assert made.counts["points"] == 15
    assert made.counts["faces"] == 6


def test_a_ring_of_faces_stays_apart_and_is_counted() -> None:
    made, apart = merge_across(SHEET, inner(SHEET, 0, 1, 2, 3, 5, 6, 7, 8))
    assert apart == 1
    assert made.digest == SHEET.digest


@given(st.lists(st.booleans(), min_size=26, max_size=26))
def test_any_choice_of_edges_keeps_area_and_closedness(chosen: list[bool]) -> None:
    ball = ops.box(cells=(2, 2, 2))
    edges = np.resize(np.array(chosen), ball.topology.edge_count)
    flat = edges & flat_across(ball, measure.face_normals(ball), 1e-6)
    made, _ = merge_across(ball, flat)
    assert is_closed(made)
    assert volume(made) == pytest.approx(1)
    assert measure.face_areas(made).sum() == pytest.approx(6)


def test_flat_edges_of_a_box_are_those_inside_its_sides() -> None:
    box = ops.box(cells=(2, 2, 2))
    flat = flat_across(box, measure.face_normals(box), 1e-6)
    assert flat.sum() == 24
    assert merge_across(box, flat)[0].counts == {**ops.box().counts, "points": 20, "edges": 24, "corners": 48}
    assert flat_across(box, measure.face_normals(box), np.pi).sum() == box.topology.edge_count


def test_values_that_differ_are_seen_on_faces_corners_edges_and_in_lists() -> None:
    plain = SHEET.without_attribute("corner", "uv")
    assert equal_across(plain).sum() == 12
    assert equal_across(SHEET).sum() == 12, "uv goes on across the edges"
    assert equal_across(plain.with_attribute("face", "label", np.arange(9) // 3)).sum() == 6
    assert equal_across(plain.with_attribute("face", "tags", [[i // 3] for i in range(9)], "integer list")).sum() == 6
    assert equal_across(plain.with_attribute("corner", "tone", np.arange(36.0))).sum() == 0
    crease = np.zeros(24)
    crease[~plain.topology.border_edges] = [1.0] + [0] * 11
    assert equal_across(plain.with_attribute("edge", "crease", crease)).sum() == 11
