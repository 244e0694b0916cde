"""Triangles of simple, bridged and touching polygons, beside the areas of shapely's polygons."""

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from shapely import affinity

from reticula.core.geometry.planar.ear_clipping import cut_polygons


def check(outline: np.ndarray, area: float, normal: np.ndarray, *, shortest: bool) -> None:
    size = len(outline)
    corner, _ = cut_polygons(
        outline, np.array([0, size], np.int32), np.arange(size, dtype=np.int32), normal[None], shortest=shortest
    )
    at = outline[corner]
    parts = np.cross(at[:, 1] - at[:, 0], at[:, 2] - at[:, 0]) @ normal / 2
    assert len(corner) == size - 2
    assert (parts > -1e-9 * area).all(), "no triangle turns over"
    assert parts.sum() == pytest.approx(area, rel=1e-9)


def bridged(polygon: shapely.Polygon) -> np.ndarray:
    """Join each hole to the outline by a pair of edges to the nearest corner that it can be seen from (Held 2001)."""
    ring = shapely.get_coordinates(shapely.geometry.polygon.orient(polygon).exterior)[:-1]
    for hole in sorted(shapely.geometry.polygon.orient(polygon).interiors, key=lambda one: one.bounds[0]):
        inner = shapely.get_coordinates(hole)[:-1]
        _, code, times = np.unique(ring, axis=0, return_inverse=True, return_counts=True)
        once = np.flatnonzero(times[code.reshape(-1)] == 1)
        pairs = sorted((np.linalg.norm(ring[i] - inner[j]), i, j) for i in once for j in range(len(inner)))
        at = None
        for _, i, j in pairs:
            bridge = shapely.LineString([ring[i], inner[j]])
            if shapely.covers(polygon, bridge) and not shapely.crosses(bridge, shapely.LinearRing(ring)):
                at = i, j
                break
        assert at is not None
        i, j = at
        ring = np.concatenate([ring[: i + 1], np.roll(inner, -j, axis=0), inner[j : j + 1], ring[i:]])
    return ring


@given(st.integers(0, 10**6), st.integers(3, 12), st.integers(1, 3), st.booleans())
def test_outlines_with_bridges_to_holes(seed: int, sides: int, holes: int, shortest: bool) -> None:
    rng = np.random.default_rng(seed)
    angle = (np.arange(sides) + 0.5 * rng.random(sides)) * 2 * np.pi / sides
    polygon = shapely.Polygon(np.column_stack([np.cos(angle), np.sin(angle)]) * rng.uniform(4, 6, sides)[:, None])
    for n in range(holes):
        small = affinity.rotate(shapely.box(-0.3, -0.2, 0.3, 0.2), rng.uniform(0, 360))
        place = np.array([0.9 * np.cos(2.1 * n), 0.9 * np.sin(2.1 * n)])
        polygon = polygon.difference(affinity.translate(small, *place))
    if polygon.geom_type != "Polygon" or len(polygon.interiors) != holes:
        return
    ring = bridged(polygon)
    spin = np.linalg.qr(rng.normal(size=(3, 3)))[0]
    flat = np.column_stack([ring, np.zeros(len(ring))])
    check(flat, polygon.area, np.array([0.0, 0, 1]), shortest=shortest)
    normal = spin[2] * np.linalg.det(spin)
    check(flat @ spin, polygon.area, normal, shortest=shortest)


@pytest.mark.parametrize("shortest", [False, True])
def test_two_squares_that_touch_in_a_corner(shortest: bool) -> None:
    eight = np.array([[0, 0, 0], [1, 0, 0], [1, 1, 0], [2, 1, 0], [2, 2, 0], [1, 2, 0], [1, 1, 0], [0, 1, 0]], float)
    check(eight, 2.0, np.array([0.0, 0, 1]), shortest=shortest)


@pytest.mark.parametrize("shortest", [False, True])
def test_a_hole_that_touches_the_outline(shortest: bool) -> None:
    bite = [[0, 0], [4, 0], [4, 4], [0, 4], [0, 0], [1, 2], [2, 2], [2, 1]]
    outline = np.column_stack([np.array(bite, float), np.zeros(len(bite))])
    check(outline, shapely.Polygon(bite).area, np.array([0.0, 0, 1]), shortest=shortest)


def test_a_comb_of_thousands_of_teeth() -> None:
    teeth = 2000
    x = np.arange(2 * teeth, dtype=float)
    top = np.column_stack([x, np.where(np.arange(2 * teeth) % 2, 5.0, 1.0), np.zeros(2 * teeth)])[::-1]
    comb = np.concatenate([[[0, 0, 0], [2 * teeth - 1.0, 0, 0]], top])
    check(comb, shapely.Polygon(comb[:, :2]).area, np.array([0.0, 0, 1]), shortest=False)
