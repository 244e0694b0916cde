"""Loops end to end, rings side by side; counted on a torus and a sheet, where they are known."""

from __future__ import annotations

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.geometry.mesh.edge_loops import edge_loops, edge_rings


def one(geo: Geo, edge: int) -> np.ndarray:  # type: ignore[type-arg]
    chosen = np.zeros(geo.topology.edge_count, bool)
    chosen[edge] = True
    return chosen


@pytest.mark.parametrize(("around", "across"), [(12, 8), (7, 5)])
def test_on_a_torus_loops_and_rings_close(around: int, across: int) -> None:
    torus = ops.torus(segments=around, sides=across)
    shape = torus.topology
    assert shape.edge_count == 2 * around * across
    loops, rings = set(), set()
    for edge in range(shape.edge_count):
        loops.add(int(edge_loops(shape, one(torus, edge)).sum()))
        rings.add(int(edge_rings(shape, one(torus, edge)).sum()))
    assert loops == {around, across}
    assert rings == {around, across}


def test_a_loop_and_the_ring_through_one_edge_cross_only_there() -> None:
    torus = ops.torus()
    loop, ring = edge_loops(torus.topology, one(torus, 5)), edge_rings(torus.topology, one(torus, 5))
    assert np.flatnonzero(loop & ring).tolist() == [5]


def test_on_a_sheet_loops_end_at_the_border_and_the_border_is_one() -> None:
    sheet = ops.grid(cells=(4, 3))
    shape = sheet.topology
    ends = sheet.positions[shape.edges]
    inner = np.flatnonzero((ends[:, :, 0] == 0).all(axis=1))
    assert edge_loops(shape, one(sheet, int(inner[0]))).sum() == 3
    assert edge_rings(shape, one(sheet, int(inner[0]))).sum() == 5
    border = int(np.flatnonzero(shape.border_edges)[0])
    assert edge_loops(shape, one(sheet, border)).sum() == 14


def test_triangles_stop_rings_and_nothing_chosen_is_nothing() -> None:
    ball = ops.geodesic_sphere()
    assert edge_rings(ball.topology, one(ball, 3)).sum() == 1
    assert edge_loops(ball.topology, np.zeros(ball.topology.edge_count, bool)).sum() == 0
