"""Quads cut by the kernel of their own: as polygons are, convex, hollow, bent and flat as a line."""

from __future__ import annotations

import numpy as np
import pytest

from reticula.core import Geo
from reticula.core.geometry.edit.face_triangles import triangulate_faces
from reticula.core.geometry.measure.areas import area_vectors
from reticula.core.geometry.planar.ear_clipping import cut_polygons
from reticula.core.geometry.planar.quads import cut_quads


@pytest.fixture(params=["flat", "bent", "alike"])
def quads(request: pytest.FixtureRequest) -> Geo:
    """Random quads, a third of them hollow; ``alike`` are squares, both of whose diagonals are as long."""
    rng = np.random.default_rng(7)
    corners = np.array([[0, 0, 0], [1, 0, 0], [1, 1, 0], [0, 1, 0]], float)
    moved = np.repeat(corners[None], 300, axis=0)
    if request.param != "alike":
        moved = moved + rng.normal(0.0, 0.4, moved.shape) * ([1, 1, 1] if request.param == "bent" else [1, 1, 0])
    return Geo.from_faces(moved.reshape(-1, 3), np.arange(1200).reshape(-1, 4))


@pytest.mark.parametrize("shortest", [True, False])
def test_they_are_cut_as_polygons_are(quads: Geo, shortest: bool) -> None:
    shape = quads.topology
    corner, point = cut_quads(quads.positions, shape.corner_point, shortest)
    triangles, _ = cut_polygons(
        quads.positions, shape.face_start, shape.corner_point, area_vectors(quads), shortest=shortest
    )
    assert corner.reshape(-1, 3).tolist() == triangles.tolist()
    assert point.tolist() == shape.corner_point[corner].tolist()


def test_one_triangle_among_them_changes_no_quad(quads: Geo) -> None:
    mixed = Geo.from_faces(quads.positions, [*quads.topology.corner_point.reshape(-1, 4).tolist(), [0, 1, 2]])
    alone = triangulate_faces(quads, np.ones(300, bool))
    beside = triangulate_faces(mixed, np.ones(301, bool))
    assert beside.topology.corner_point[:-3].tolist() == alone.topology.corner_point.tolist()
    assert alone.topology.face_start.tolist() == list(range(0, 1801, 3))
