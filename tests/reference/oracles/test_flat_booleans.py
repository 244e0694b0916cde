"""Flat unions, differences and intersections beside shapely: area, pieces and holes, and shared points."""

from __future__ import annotations

import numpy as np
import pytest
import shapely
from hypothesis import example, given
from hypothesis import strategies as st

from reticula.core import Geo, ops
from reticula.core.diagnostics import collecting
from reticula.core.geometry import measure

HOW = {"union": shapely.union, "difference": shapely.difference, "intersection": shapely.intersection}


def region(geo: Geo, scale: float, shift: np.ndarray) -> shapely.Geometry:
    """What the faces of a flat sheet cover, at size 1 about the origin."""
    shape = geo.topology
    flat = ((geo.positions - shift) / scale)[:, [0, 2]]
    corners = np.split(flat[shape.corner_point], shape.face_start[1:-1])
    return shapely.unary_union([shapely.Polygon(corner) for corner in corners])


def rings(wanted: shapely.Geometry) -> tuple[int, int]:
    """How many outlines a region has, and how many pieces less holes; what is only as wide as an error of rounding is
    none, however long, but a small piece is one.
    """
    pieces = [piece for piece in shapely.get_parts(wanted) if _is_wide(piece)]
    holes = sum(_is_wide(shapely.Polygon(ring)) for piece in pieces for ring in piece.interiors)
    return len(pieces) + holes, len(pieces) - holes


def _is_wide(piece: shapely.Polygon) -> bool:
    return bool(piece.area > 1e-9 * piece.length)


def scene(seed: int, cells: int, count: int) -> tuple[Geo, Geo]:
    """A grid, and discs that overlap it and each other."""
    rng = np.random.default_rng(seed)
    discs = [
        ops.transform(
            ops.disc(radius=rng.uniform(0.05, 0.15), segments=int(rng.integers(3, 24)), rings=2),
            move=(rng.uniform(-0.5, 0.5), 0, rng.uniform(-0.5, 0.5)),
        )
        for _ in range(count)
    ]
    return ops.grid(cells=(cells, cells)), ops.join(*discs)


@pytest.mark.parametrize("operation", HOW)
@pytest.mark.parametrize(("scale", "far"), [(1.0, 0.0), (1.0, 1e4), (1e-3, 0.0), (1e3, 1e6)])
@given(seed=st.integers(0, 10_000), cells=st.integers(1, 12), count=st.integers(1, 25))
@example(seed=4203, cells=1, count=5)
def test_beside_shapely(operation: str, scale: float, far: float, seed: int, cells: int, count: int) -> None:
    a, b = scene(seed, cells, count)
    wanted = HOW[operation](region(a, 1, np.zeros(3)), region(b, 1, np.zeros(3)))
    move = np.array([far, far / 3, -far])
    with collecting():
        a, b = (ops.transform(part, scale=(scale,) * 3, move=tuple(move)) for part in (a, b))
        made = ops.boolean(a, b, operation=operation)
        border = ops.edges_to_curves(made, where="border")
    digits = 1e-8 + 1e-15 * far / scale * 1e3
    assert measure.face_areas(made).sum() / scale**2 == pytest.approx(wanted.area, abs=digits)
    outlines, euler = rings(wanted)
    if far <= 1e4:
        assert made.topology.euler_characteristic == euler, "points are shared: no crack, no seam that is open"
        assert border.counts["curves"] == outlines, "each outline is one closed curve"
        assert border.topology.curve_closed.all()
    assert (made.topology.edge_face_count <= 2).all()
    assert (measure.face_normals(made)[:, 1] > 0.99).all()


@given(seed=st.integers(0, 10_000))
def test_overlaps_inside_one_sheet_are_united_too(seed: int) -> None:
    _, discs = scene(seed, 1, 12)
    with collecting():
        made = ops.boolean(discs, operation="union")
    wanted = region(discs, 1, np.zeros(3))
    assert measure.face_areas(made).sum() == pytest.approx(wanted.area, abs=1e-9)
    assert made.topology.euler_characteristic == rings(wanted)[1]


def test_what_nothing_cuts_keeps_its_points_to_the_bit_and_its_values() -> None:
    a, b = scene(3, 8, 4)
    rng = np.random.default_rng(3)
    a = a.with_attribute("edge", "crease", 1 + rng.random(a.topology.edge_count))
    a = a.with_attribute("corner", "tone", rng.random(a.topology.corner_count))
    a = a.with_attribute("point", "heat", a.positions @ [3.0, 0, -2.0])
    with collecting():
        made = ops.boolean(a, b, operation="difference")
    known = {tuple(place): n for n, place in enumerate(a.positions)}
    old = np.array([known.get(tuple(place), -1) for place in made.positions])
    assert (old >= 0).sum() > 30
    assert made.attribute("point", "heat")[old >= 0].tolist() == a.attribute("point", "heat")[old[old >= 0]].tolist()
    assert made.attribute("point", "heat") == pytest.approx(made.positions @ [3.0, 0, -2.0], abs=1e-9)
    whole = made.topology.edges[(old[made.topology.edges] >= 0).all(axis=1)]
    assert len(whole) > 40
    assert np.isin(made.attribute("edge", "crease"), [0, *a.attribute("edge", "crease")]).all()
    assert (made.attribute("edge", "crease") > 0).sum() >= len(whole)
