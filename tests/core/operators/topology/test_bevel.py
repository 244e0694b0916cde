"""Bevel: closed forms on boxes, corners, ends, profiles, limits, values."""

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note
from reticula.core.geometry import Topology, measure
from tests.helpers import bumpy, is_closed, volume


def test_counts_of_a_beveled_box() -> None:
    made = ops.bevel(ops.box(), width=0.1)
    assert made.counts["points"] == 24
    assert made.counts["faces"] == 6 + 12 + 8
    assert made.group("face", "bevel").sum() == 12
    assert made.group("face", "bevel_corner").sum() == 8
    assert is_closed(made)


@given(st.floats(0.01, 0.49))
def test_chamfered_box_in_closed_form(w: float) -> None:
    """12 edges lose a prism of w²/2 over 1 - 2w, 8 corners a cube of w³ less the tetrahedron w³/6 that stays."""
    assert volume(ops.bevel(ops.box(), width=w)) == pytest.approx(1 - 12 * (1 - 2 * w) * w * w / 2 - 8 * w**3 * 5 / 6)


def test_rounded_box_tends_to_the_closed_form() -> None:
    w = 0.2
    exact = (1 - 2 * w) ** 3 + 6 * w * (1 - 2 * w) ** 2 + 3 * np.pi * w * w * (1 - 2 * w) + 4 / 3 * np.pi * w**3
    gaps = [exact - volume(ops.bevel(ops.box(), width=w, segments=n)) for n in (4, 8, 16)]
    assert all(gap > 0 for gap in gaps), "inside the round one"
    assert gaps[0] / gaps[1] == pytest.approx(4, rel=0.1)
    assert gaps[1] / gaps[2] == pytest.approx(4, rel=0.1)
    corner = ops.bevel(ops.box(), width=w, segments=8)
    patch = np.unique(corner.topology.corner_point[corner.group("face", "bevel_corner")[corner.topology.corner_face]])
    middle = np.sign(corner.positions[patch]) * (0.5 - w)
    assert np.linalg.norm(corner.positions[patch] - middle, axis=1) == pytest.approx(np.full(len(patch), w)), (
        "on a ball"
    )


def test_borders_run_parallel_to_the_edge() -> None:
    made = ops.bevel(ops.box(), where="index == 0", width=0.2, segments=3)
    strips = made.topology.corner_point[made.group("face", "bevel")[made.topology.corner_face]]
    a, b = ops.box().positions[ops.box().topology.edges[0]]
    way = (b - a) / np.linalg.norm(b - a)
    local = made.positions[np.unique(strips)] - a
    away = np.linalg.norm(local - (local @ way)[:, None] * way, axis=1)
    assert away.max() == pytest.approx(0.2)
    assert is_closed(made)


@pytest.mark.parametrize("count", [1, 2, 3, 4, 7])
def test_any_edges_of_a_box(count: int) -> None:
    made = ops.bevel(ops.box(), where=f"index < {count}", width=0.1, segments=2)
    assert is_closed(made)
    assert made.topology.euler_characteristic == 2
    assert volume(made) < 1


@given(st.integers(0, 10_000), st.sampled_from([1, 2, 5]), st.floats(0.001, 0.5))
def test_random_edges_of_a_ball_stay_closed(seed: int, segments: int, width: float) -> None:
    ball = bumpy(seed, 2)
    some = np.random.default_rng(seed).random(ball.topology.edge_count) < 0.3
    made = ops.bevel(ball.with_attribute("edge", "some", some), where="some", width=width, segments=segments)
    assert is_closed(made)
    assert made.topology.euler_characteristic == 2
    assert np.isfinite(made.positions).all()


@given(st.integers(0, 10_000), st.sampled_from([1, 3]))
def test_random_points_of_a_ball_stay_closed(seed: int, segments: int) -> None:
    ball = bumpy(seed, 2)
    some = np.random.default_rng(seed).random(ball.topology.point_count) < 0.3
    if not some.any():
        return
    made = ops.bevel(
        ball.with_attribute("point", "some", some), what="point", where="some", segments=segments, width=0.03
    )
    assert is_closed(made)
    assert made.topology.euler_characteristic == 2


def test_points_of_a_box_in_closed_form() -> None:
    made = ops.bevel(ops.box(), what="point", width=0.3)
    assert volume(made) == pytest.approx(1 - 8 * 0.3**3 / 6)
    assert made.group("face", "bevel_corner").sum() == 8


def test_profiles_from_hollow_to_sharp() -> None:
    sizes = [volume(ops.bevel(ops.box(), width=0.2, segments=6, profile=p)) for p in (0.1, 0.25, 0.5, 0.9)]
    assert sizes == sorted(sizes)
    flat = ops.bevel(ops.box(), width=0.2, segments=6, profile=0.25)
    assert volume(flat) == pytest.approx(volume(ops.bevel(ops.box(), width=0.2)))


@pytest.mark.parametrize("limit", ["each point", "smallest"])
def test_too_wide_is_held_back(limit: str, notes: list[Note]) -> None:
    made = ops.bevel(ops.box(size=(1, 1, 3)), width=9, limit=limit)
    assert is_closed(made)
    assert "held back" in notes[0].text
    assert volume(made) > 0


@pytest.mark.parametrize(("limit", "said"), [("each point", "a face would cross itself"), ("smallest", "would cross")])
def test_caps_of_concave_prisms_stay_simple(limit: str, said: str, notes: list[Note]) -> None:
    """The middle of the tongs' inner side would meet their outer side before an edge there vanishes."""
    flat = [(0, 0), (6, 0), (6, 4), (5.9, 4), (3.5, 0.3), (2.5, 0.3), (0.1, 4), (0, 4)]
    tongs = Geo.from_faces([[x, y, 0] for x, y in flat], [list(range(8))])
    prism = ops.extrude(tongs, distance=5.0, keep_base=True)
    made = ops.bevel(prism, width=1.0, limit=limit)
    assert is_closed(made)
    for face in np.flatnonzero(prism.topology.face_size == 8):
        first, last = made.topology.face_start[face : face + 2]
        cap = made.positions[made.topology.corner_point[first:last]][:, :2]
        assert shapely.Polygon(cap).is_valid
        turned = measure.area_vectors(made)[face] @ measure.area_vectors(prism)[face]
        assert turned > 0
    assert any(said in note.text for note in notes)


def test_open_borders_are_left(notes: list[Note]) -> None:
    sheet = ops.grid(cells=(3, 3))
    made = ops.bevel(sheet, width=0.02, segments=3)
    assert measure.face_areas(made).sum() == pytest.approx(1)
    assert "12 open" in notes[0].text
    alone = ops.bevel(sheet, where="border")
    assert alone.counts == sheet.counts
    assert "nothing to bevel" in notes[-1].text


def test_values_slide_along() -> None:
    sheet = ops.set_attribute(ops.grid(cells=(3, 3)), name="across", value="position.x")
    made = ops.bevel(sheet, where="not border", width=0.03)
    assert made.attribute("point", "across") == pytest.approx(made.positions[:, 0])
    inner = ~(made.group("face", "bevel") | made.group("face", "bevel_corner"))[made.topology.corner_face]
    place = made.positions[made.topology.corner_point][:, [0, 2]] * [1, -1] + 0.5
    assert made.attribute("corner", "uv")[inner] == pytest.approx(place[inner])


def test_chains_of_bevels() -> None:
    made = ops.bevel(ops.bevel(ops.box(), width=0.2), where="index % 3 == 0", width=0.02)
    assert is_closed(made)
    loose = ops.bevel(ops.join(ops.box(), Geo.of([[5, 5, 5]])), width=0.1)
    assert loose.counts["points"] == 25


@pytest.mark.parametrize("where", ["", "position.y > 0.4", "index % 2 == 0"])
def test_points_in_the_middle_of_an_edge(where: str, notes: list[Note]) -> None:
    """Where just two edges meet, as after a slice, both are cut or none."""
    box = ops.split_faces(ops.box(), where="index < 2", into="fan", seam="corners")
    above, _ = ops.slice(ops.slice(box, keep="joined")[0], through=(0, 0.2, 0), keep="joined")
    straight = ops.dual(ops.dual(ops.box(cells=(2, 2, 2))))
    for geo in (above, straight, ops.join(ops.box())):
        made = ops.bevel(geo, where=where, width=0.03, segments=2)
        assert is_closed(made)
        assert made.topology.euler_characteristic == 2


def test_planned_once_for_a_topology() -> None:
    from reticula.core.operators.topology import bevel as module

    calls = []
    plan = module.bevel_plan
    module.bevel_plan = lambda *given: calls.append(1) or plan(*given)
    try:
        box = ops.box(cells=(3, 3, 3))
        ops.bevel(box, width=0.01)
        ops.bevel(box.with_positions(box.positions * 2), width=0.02)
    finally:
        module.bevel_plan = plan
    assert len(calls) == 1


@pytest.mark.parametrize("given", [{}, {"segments": 4}, {"where": "index % 3 == 0", "segments": 2}, {"what": "point"}])
def test_places_that_move_on_a_topology_known_before_change_nothing_else(given: dict[str, object]) -> None:
    first = ops.group(bumpy(4), name="ridge", kind="edge", where="index % 5 == 0")
    ops.bevel(first, width=0.01, **given)
    moved = first.with_positions(first.positions * [1.0, 1.3, 0.8])
    again = ops.bevel(moved, width=0.02, **given)
    shape = moved.topology
    unknown = Topology(shape.point_count, shape.face_start, shape.corner_point)
    fresh = Geo(unknown, moved.attributes, identity={kind: moved.identity(kind) for kind in ("point", "edge", "face")})
    anew = ops.bevel(fresh, width=0.02, **given)
    assert again.digest == anew.digest
    for kind in ("point", "edge", "face"):
        assert again.identity(kind).tolist() == anew.identity(kind).tolist()
