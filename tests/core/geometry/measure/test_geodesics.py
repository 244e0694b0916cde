"""Chains, loops, fans, frames, distances over surfaces and other ways through a mesh, by what must hold of them."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.sparse import coo_array
from scipy.sparse.csgraph import connected_components

from reticula.core import Geo, ops
from reticula.core.geometry.edit.split_points import split_along_edges
from reticula.core.geometry.measure.areas import face_areas
from reticula.core.geometry.measure.components import face_components, point_component_sizes, point_components
from reticula.core.geometry.measure.curvature import mixed_areas
from reticula.core.geometry.measure.curve_frames import curve_frames
from reticula.core.geometry.measure.geodesics import geodesic_distances
from reticula.core.geometry.mesh.adjacency import group_by
from reticula.core.geometry.mesh.edge_chains import edge_chains
from reticula.core.geometry.mesh.point_fans import point_fans
from reticula.core.geometry.planar.barycentric import barycentric
from reticula.core.geometry.planar.boundary_loops import border_loops, loop_normals, segment_loops
from tests.helpers import bumpy


@given(st.lists(st.integers(0, 9), max_size=60))
def test_grouping_is_a_stable_sort(keys: list[int]) -> None:
    start, order = group_by(np.array(keys, np.int32), 10)
    assert order.tolist() == np.argsort(keys, kind="stable").tolist()
    assert np.diff(start).tolist() == np.bincount(np.array(keys, int), minlength=10).tolist()


@given(st.integers(3, 30), st.integers(0, 99))
def test_a_ring_of_edges_is_one_closed_chain_in_any_order(count: int, seed: int) -> None:
    rng = np.random.default_rng(seed)
    edges = np.stack([np.arange(count), (np.arange(count) + 1) % count], axis=1)[rng.permutation(count)]
    edges = np.where(rng.random((count, 1)) < 0.5, edges, edges[:, ::-1])
    start, points, closed, _ = edge_chains(edges, count)
    assert start.tolist() == [0, count]
    assert closed.tolist() == [True]
    steps = (np.diff(np.append(points, points[0])) % count).tolist()
    assert set(steps) in ({1}, {count - 1})


def test_chains_end_at_branches_and_where_they_are_told_to() -> None:
    star = [[0, 1], [1, 2], [0, 3], [0, 4], [4, 5]]
    start, points, closed, _ = edge_chains(np.array(star), 6)
    assert sorted(np.diff(start).tolist()) == [2, 3, 3]
    assert not closed.any()
    assert all(0 in points[a:b] for a, b in zip(start[:-1], start[1:], strict=True))
    stops = np.zeros(4, bool)
    stops[1] = True
    start, _, _, _ = edge_chains(np.array([[0, 1], [1, 2], [2, 3]]), 4, stops)
    assert sorted(np.diff(start).tolist()) == [2, 3]


@given(st.integers(1, 6), st.integers(1, 6), st.integers(0, 500))
def test_borders_of_a_sheet_with_holes_add_up(rows: int, columns: int, seed: int) -> None:
    """Every border edge lies on one loop; loops come back to where they begin."""
    gone = np.random.default_rng(seed).random(rows * columns) < 0.3
    sheet = ops.grid(cells=(rows, columns))
    kept = np.flatnonzero(~gone)
    if not len(kept):
        return
    quads = sheet.topology.corner_point.reshape(-1, 4)[kept]
    made = Geo.from_faces(sheet.positions, quads)
    start, corner = border_loops(made.topology)
    shape = made.topology
    assert len(corner) == int(shape.border_edges.sum())
    tail, head = shape.corner_point[corner], shape.corner_point[shape.corner_next[corner]]
    for first, last in zip(start[:-1], start[1:], strict=True):
        assert head[first:last].tolist() == [*tail[first + 1 : last], tail[first]]


def test_loose_segments_are_counted_and_loops_found() -> None:
    tail, head = np.array([0, 1, 2, 5, 6]), np.array([1, 2, 0, 6, 7])
    start, segment, left = segment_loops(tail, head, 8)
    assert start.tolist() == [0, 3]
    assert sorted(segment.tolist()) == [0, 1, 2]
    assert left == 2


@given(st.integers(3, 20), st.floats(0.1, 5))
def test_area_vectors_of_regular_polygons(count: int, radius: float) -> None:
    """Area n r² sin(2π/n) / 2, from any textbook of geometry."""
    angle = np.arange(count) * 2 * np.pi / count
    places = np.stack([np.cos(angle), np.zeros(count), -np.sin(angle)], axis=1) * radius
    vector = loop_normals(places, np.array([0, count], np.int32), np.arange(count, dtype=np.int32))[0]
    assert vector == pytest.approx([0, count * radius**2 * np.sin(2 * np.pi / count) / 2, 0])


def test_rings_of_corners_go_round_each_point() -> None:
    ball = ops.geodesic_sphere(frequency=3)
    shape = ball.topology
    start, ring, closed, border = point_fans(
        *shape.point_corners, shape.corner_across, shape.corner_previous, shape.corner_next
    )
    assert closed.all()
    assert not border.any()
    assert (shape.corner_point[ring] == np.repeat(np.arange(shape.point_count), np.diff(start))).all()
    sheet = ops.grid(cells=(3, 3)).topology
    _, _, closed, border = point_fans(
        *sheet.point_corners, sheet.corner_across, sheet.corner_previous, sheet.corner_next
    )
    assert (int(closed.sum()), int(border.sum())) == (4, 12)


@pytest.mark.parametrize("closed", [False, True])
def test_frames_are_right_angled_and_do_not_twist_in_a_plane(closed: bool) -> None:
    curve = (
        ops.circle(segments=40)
        if closed
        else ops.curve_through(places=[[0, 0, 0], [1, 0, 1], [2, 0, 0]], between="smooth", segments=20)
    )
    shape = curve.topology
    tangent, normal, _ = curve_frames(
        curve.positions, shape.curve_start, shape.curve_point, shape.curve_closed, np.array([0.0, 1.0, 0.0])
    )
    assert np.allclose(np.linalg.norm(tangent, axis=1), 1)
    assert np.allclose(np.linalg.norm(normal, axis=1), 1)
    assert np.allclose((tangent * normal).sum(axis=1), 0, atol=1e-9)
    assert np.allclose(normal, [0, 1, 0], atol=1e-9)


def test_frames_of_a_closed_curve_in_space_meet_again() -> None:
    angle = np.arange(120) * 2 * np.pi / 120
    knot = np.stack(
        [np.sin(angle) + 2 * np.sin(2 * angle), np.cos(angle) - 2 * np.cos(2 * angle), -np.sin(3 * angle)], axis=1
    )
    start, point = np.array([0, 120], np.int32), np.arange(120, dtype=np.int32)
    _, normal, _ = curve_frames(knot, start, point, np.array([True]), np.array([0.0, 0.0, 1.0]))
    turns = np.degrees(np.arccos(np.clip((normal * np.roll(normal, -1, axis=0)).sum(axis=1), -1, 1)))
    assert turns.max() < 25


def test_distances_on_a_plane_are_straight() -> None:
    sheet = ops.triangulate(ops.grid(size=(2, 2), cells=(20, 20)))
    begin = np.zeros(sheet.topology.point_count, bool)
    begin[0] = True
    straight = np.linalg.norm(sheet.positions - sheet.positions[0], axis=1)
    found = geodesic_distances(sheet, begin)
    assert (found >= straight - 1e-9).all()
    assert np.allclose(found, straight, rtol=0.03)


def test_distances_on_a_ball_are_great_circles() -> None:
    """r times the angle between two places, the textbook's length of a great circle."""
    ball = ops.geodesic_sphere(radius=2.0, frequency=16)
    begin = np.zeros(ball.topology.point_count, bool)
    begin[0] = True
    way = ball.positions / 2.0
    angle = np.arccos(np.clip(way @ way[0], -1, 1))
    assert np.allclose(geodesic_distances(ball, begin), 2.0 * angle, rtol=0.03, atol=0.03)


def test_what_cannot_be_reached_is_infinitely_far() -> None:
    pair = ops.join(ops.box(), ops.transform(ops.box(), move=(5, 0, 0)))
    begin = np.zeros(16, bool)
    begin[0] = True
    found = geodesic_distances(pair, begin)
    assert np.isfinite(found[:8]).all()
    assert not np.isfinite(found[8:]).any() or (found[8:] < 0).all()


@given(st.integers(0, 300))
def test_pieces_agree_with_a_general_library(seed: int) -> None:
    """SciPy's connected components (BSD)."""
    rng = np.random.default_rng(seed)
    kept = rng.random(36) < 0.5
    sheet = ops.grid(cells=(6, 6))
    quads = sheet.topology.corner_point.reshape(-1, 4)[kept]
    if not len(quads):
        return
    geo = Geo.from_faces(sheet.positions, quads)
    edges = geo.topology.edges
    ones = np.ones(len(edges), np.int8)
    count, label = connected_components(coo_array((ones, (edges[:, 0], edges[:, 1])), shape=(49, 49)), directed=False)
    mine = point_components(geo)
    assert len(np.unique(mine)) == count
    assert len(np.unique(np.stack([mine, label]), axis=1).T) == count
    assert (point_component_sizes(geo) == np.bincount(label)[label]).all()
    assert (face_components(geo) == face_components(geo)[0]).all() == (len(np.unique(label[quads[:, 0]])) == 1)


@given(st.integers(0, 300))
def test_shares_of_the_surface_add_up_to_it(seed: int) -> None:
    ball = bumpy(seed, 2)
    assert mixed_areas(ball).sum() == pytest.approx(face_areas(ball).sum())
    assert (mixed_areas(ball) > 0).all()


@given(st.integers(0, 300))
def test_weights_lead_back_to_the_place(seed: int) -> None:
    rng = np.random.default_rng(seed)
    corner = rng.normal(size=(40, 3, 3))
    weight = rng.dirichlet([1, 1, 1], 40)
    place = np.einsum("nk,nkx->nx", weight, corner)
    assert np.allclose(barycentric(corner, place), weight, atol=1e-6)
    outside = barycentric(corner, place + rng.normal(size=(40, 3)) * 3)
    assert (outside >= 0).all()
    assert np.allclose(outside.sum(axis=1), 1)


def test_parting_along_all_edges_leaves_every_face_alone() -> None:
    box = ops.box(cells=(2, 2, 2))
    apart = split_along_edges(box, np.ones(box.topology.edge_count, bool))
    assert apart.topology.point_count == 4 * box.topology.face_count
    assert np.allclose(face_areas(apart), face_areas(box))
    assert split_along_edges(box, np.zeros(box.topology.edge_count, bool)) is box


def test_parting_along_one_line_keeps_its_ends_whole() -> None:
    sheet = ops.grid(cells=(4, 4))
    ends = sheet.positions[sheet.topology.edges]
    line = np.isclose(ends[:, :, 0], 0).all(axis=1) & (ends[:, :, 2] < 0.01).all(axis=1)
    apart = split_along_edges(sheet, line)
    assert apart.topology.point_count == sheet.topology.point_count + 2
    assert apart.topology.edge_count == sheet.topology.edge_count + 2
