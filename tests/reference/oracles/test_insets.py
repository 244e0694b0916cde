"""Insets beside shapely's negative buffer (mitred corners), before and after edges vanish and faces come apart.

For convex and for right-angled outlines both are the same. Elsewhere a mitre of the buffer goes on past edges that are
used up, so that the buffer with sharp mitres lies within the inset and the inset within the buffer with round ones.
"""

from __future__ import annotations

import numpy as np
import pytest
import shapely
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from reticula.core import Geo, ops
from reticula.core.geometry import measure

NEAR = 1e-7


def face_of(outline: np.ndarray) -> Geo:
    return Geo.from_faces(np.c_[outline, np.zeros(len(outline))], [list(range(len(outline)))])


def inside(geo: Geo) -> tuple[list[shapely.Polygon], float]:
    """The faces left inside, and the area of rings that have turned over."""
    shape = geo.topology
    parts = np.split(geo.positions[shape.corner_point][:, :2], shape.face_start[1:-1])
    turned = np.minimum(measure.area_vectors(geo)[:, 2], 0.0).sum()
    return [shapely.Polygon(part) for part, on in zip(parts, geo.group("face", "inner"), strict=True) if on], -turned


def star(seed: int, sides: int) -> np.ndarray:
    """A star-shaped outline around the origin, counter-clockwise."""
    rng = np.random.default_rng(seed)
    turn = np.sort(rng.uniform(0, 2 * np.pi, sides))
    assume(np.diff(np.append(turn, turn[0] + 2 * np.pi)).max() < 3.0)
    return rng.uniform(0.2, 1.0, sides)[:, None] * np.stack([np.cos(turn), np.sin(turn)], axis=1)


def blocks(seed: int, size: int) -> np.ndarray:
    """The outline of some cells of a square grid that hang together and enclose no hole."""
    rng = np.random.default_rng(seed)
    cells = np.argwhere(rng.random((size, size)) < 0.65)
    assume(len(cells))
    region = shapely.unary_union([shapely.box(i, j, i + 1, j + 1) for i, j in cells])
    piece = max(shapely.get_parts(region), key=lambda part: part.area)
    assume(not piece.interiors)
    if rng.random() < 0.5:
        piece = piece.simplify(0)
    return np.array(shapely.geometry.polygon.orient(piece).exterior.coords)[:-1]


@settings(derandomize=True)
@given(seed=st.integers(0, 100_000), size=st.integers(1, 6), turn=st.sampled_from([0.0, 0.3, 1.1]))
@pytest.mark.parametrize("far", [0.2, 0.499, 0.6, 0.9, 1.2])
def test_right_angled_outlines_that_divide(seed: int, size: int, turn: float, far: float) -> None:
    way = np.array([[np.cos(turn), -np.sin(turn)], [np.sin(turn), np.cos(turn)]])
    outline = blocks(seed, size) @ way.T
    made = ops.inset(face_of(outline), distance=far, limit="divide")
    parts, turned = inside(made)
    wanted = shapely.Polygon(outline).buffer(-far, join_style="mitre", mitre_limit=1e6)
    assert turned < NEAR
    assert all(part.is_valid for part in parts)
    if wanted.area > 1e-3:
        assert sum(part.area for part in parts) == pytest.approx(wanted.area, abs=NEAR)
        assert len(parts) == len(shapely.get_parts(wanted))
    assert measure.face_areas(made).sum() == pytest.approx(shapely.Polygon(outline).area)


@settings(derandomize=True)
@given(seed=st.integers(0, 100_000), sides=st.integers(3, 30), far=st.floats(0.01, 0.9))
def test_convex_outlines_that_lose_edges(seed: int, sides: int, far: float) -> None:
    cloud = np.random.default_rng(seed).normal(size=(sides, 2))
    hull = shapely.geometry.polygon.orient(shapely.MultiPoint(cloud).convex_hull)
    outline = np.array(hull.exterior.coords)[:-1]
    parts, turned = inside(ops.inset(face_of(outline), distance=far, limit="divide"))
    wanted = hull.buffer(-far, join_style="mitre", mitre_limit=1e9)
    assert turned < NEAR
    if wanted.area > 1e-3:
        assert sum(part.area for part in parts) == pytest.approx(wanted.area, abs=1e-6)


@settings(derandomize=True)
@given(seed=st.integers(0, 100_000), sides=st.integers(4, 40), far=st.floats(0.005, 0.4))
def test_stars_lie_between_sharp_and_round_buffers(seed: int, sides: int, far: float) -> None:
    outline = star(seed, sides)
    parts, turned = inside(ops.inset(face_of(outline), distance=far, limit="divide"))
    whole = shapely.Polygon(outline)
    assert turned < NEAR
    assert all(part.is_valid for part in parts)
    covered = shapely.unary_union(parts)
    assert sum(part.area for part in parts) == pytest.approx(covered.area, abs=NEAR)
    sharp, round_ = whole.buffer(-far, join_style="mitre", mitre_limit=1e4), whole.buffer(-far, quad_segs=64)
    if round_.area > 1e-3:
        assert sharp.difference(round_.buffer(1e-9)).area > 1e-6 or sharp.difference(covered).area < 1e-4
        assert covered.difference(round_).area < 1e-4


@settings(derandomize=True)
@given(seed=st.integers(0, 100_000), sides=st.integers(4, 40), far=st.floats(0.005, 2.0), outwards=st.booleans())
@pytest.mark.parametrize("limit", ["each face", "smallest"])
def test_stars_are_held_before_they_cross(seed: int, sides: int, far: float, outwards: bool, limit: str) -> None:
    outline = star(seed, sides)
    made = ops.inset(face_of(outline), distance=-far if outwards else far, limit=limit)
    parts, turned = inside(made)
    assert made.counts["faces"] == 1 + sides
    assert len(parts) == 1
    assert parts[0].is_valid or parts[0].area < NEAR
    if not outwards:
        assert turned < NEAR
        assert shapely.Polygon(outline).buffer(NEAR).covers(parts[0])


@settings(derandomize=True)
@given(seed=st.integers(0, 100_000), cells=st.integers(1, 6), far=st.floats(0.01, 1.0))
def test_regions_are_held_before_their_faces_turn_over(seed: int, cells: int, far: float) -> None:
    rng = np.random.default_rng(seed)
    sheet = ops.grid(cells=(cells, cells))
    marked = np.flatnonzero(rng.random(cells * cells) < 0.6)
    assume(len(marked))
    marks = np.zeros(cells * cells, bool)
    marks[marked] = True
    sheet = sheet.with_attribute("face", "on", marks)
    up = measure.face_normals(sheet)[0]
    for made in (
        ops.inset(sheet, where="on", distance=far, together=True),
        ops.extrude(sheet, where="on", distance=0.0, inset=far),
    ):
        assert (measure.area_vectors(made) @ up).min() > -NEAR
        assert measure.face_areas(made).sum() == pytest.approx(1)
