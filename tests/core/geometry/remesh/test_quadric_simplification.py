"""Edges collapsed in order of their error."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.geometry.remesh.quadric_simplification import Collapsed, Limits, TriangleMesh, collapse_edges
from tests.helpers import bumpy


def collapse(geo: Geo, triangles: int, error: float = np.inf, fixed: np.ndarray | None = None) -> Collapsed:
    shape = geo.topology
    held = np.zeros(shape.point_count, bool) if fixed is None else fixed
    corners = shape.corner_point.reshape(-1, 3)
    mesh = TriangleMesh(corners, shape.edges, shape.corner_edge, *shape.point_corners, shape.border_edges, held)
    return collapse_edges(geo.positions, mesh, Limits(triangles, error, 1000.0))


@pytest.mark.parametrize("left", [400, 120, 40])
def test_a_closed_mesh_stays_closed(left: int) -> None:
    ball = bumpy(2, frequency=8)
    made = collapse(ball, left)
    tri = made.triangle[made.alive]
    assert len(tri) <= left
    sides = np.concatenate([tri[:, [0, 1]], tri[:, [1, 2]], tri[:, [2, 0]]])
    there = {*map(tuple, sides.tolist())}
    assert len(there) == len(sides)
    assert all((b, a) in there for a, b in there)


def test_a_flat_sheet_costs_nothing() -> None:
    sheet = ops.triangulate(ops.grid(cells=(12, 12)))
    made = collapse(sheet, 0, error=1e-9)
    assert made.alive.sum() == 2
    assert np.allclose(made.position[made.leader == np.arange(len(made.leader))][:, 1], 0)


def test_fixed_points_stay_and_followers_lead_to_a_leader() -> None:
    ball = bumpy(3, frequency=6)
    fixed = np.arange(ball.counts["points"]) % 7 == 0
    made = collapse(ball, 30, fixed=fixed)
    assert np.array_equal(made.position[fixed], ball.positions[fixed])
    assert np.array_equal(made.leader[made.leader], made.leader)
