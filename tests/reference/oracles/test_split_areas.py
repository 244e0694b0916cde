"""Faces split into smaller ones cover just what they did, beside the areas of shapely's polygons."""

import numpy as np
import pytest
import shapely
from hypothesis import assume, given
from hypothesis import strategies as st

from reticula.core import Geo, ops
from reticula.core.diagnostics import collecting
from reticula.core.geometry import measure

INTO = ("quads", "triangles", "fan")
HORSESHOE = [[0, 0], [3, 0], [3, 3], [2, 3], [2, 0.5], [1, 0.5], [1, 3], [0, 3]]


def check(outline: np.ndarray, into: str, levels: int) -> None:
    flat = np.column_stack([outline, np.zeros(len(outline))])
    with collecting():
        made = ops.split_faces(Geo.from_faces(flat, [list(range(len(flat)))]), into=into, levels=levels)
    parts = measure.area_vectors(made)[:, 2]
    assert (parts >= -1e-12).all(), "no part turns over"
    assert parts.sum() == pytest.approx(shapely.Polygon(outline).area, rel=1e-9)
    rings = [made.positions[ring, :2] for ring in np.split(made.topology.corner_point, made.topology.face_start[1:-1])]
    assert shapely.unary_union([shapely.Polygon(ring) for ring in rings]).area == pytest.approx(parts.sum(), rel=1e-9)


@pytest.mark.parametrize("into", INTO)
@pytest.mark.parametrize("levels", [1, 2, 3])
def test_a_horseshoe_keeps_its_area(into: str, levels: int) -> None:
    check(np.array(HORSESHOE), into, levels)


@given(st.integers(0, 10**6), st.integers(4, 14), st.sampled_from(INTO), st.integers(1, 2))
def test_any_simple_outline_keeps_its_area(seed: int, size: int, into: str, levels: int) -> None:
    rng = np.random.default_rng(seed)
    angle = np.sort(rng.random(size)) * 2 * np.pi
    outline = np.column_stack([np.cos(angle), np.sin(angle)]) * rng.uniform(0.2, 1, size)[:, None]
    polygon = shapely.Polygon(outline)
    assume(polygon.is_valid and polygon.exterior.is_ccw and polygon.area > 0.05)
    assume(np.linalg.norm(outline - np.roll(outline, 1, axis=0), axis=1).min() > 0.01)
    check(outline, into, levels)
