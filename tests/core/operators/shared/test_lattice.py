"""Lattices of quads: counts by Euler's formula, winding, and texture places."""

import numpy as np
import pytest

from reticula.core.geometry import Topology
from reticula.core.operators.shared.lattice import lattice_places, lattice_quads, lattice_uv


@pytest.mark.parametrize(
    ("wrap_rows", "wrap_columns", "euler", "borders"),
    [(False, False, 1, 14), (True, False, 0, 10), (False, True, 0, 8), (True, True, 0, 0)],
)
def test_sheet_tubes_and_torus(wrap_rows: bool, wrap_columns: bool, euler: int, borders: int) -> None:
    quads = lattice_quads(5, 4, wrap_rows=wrap_rows, wrap_columns=wrap_columns)
    shape = Topology(20, np.arange(len(quads) + 1) * 4, quads.reshape(-1))
    assert shape.face_count == (5 if wrap_rows else 4) * (4 if wrap_columns else 3)
    assert shape.euler_characteristic == euler
    assert shape.border_edges.sum() == borders


def test_neighbours_run_along_a_shared_edge_in_opposite_ways() -> None:
    quads = lattice_quads(4, 4, wrap_rows=True, wrap_columns=True)
    steps = {(a, b) for quad in quads.tolist() for a, b in zip(quad, [*quad[1:], quad[0]], strict=True)}
    assert len(steps) == quads.size
    assert all((b, a) in steps for a, b in steps)


def test_texture_places_belong_to_the_corners() -> None:
    uv = lattice_uv(2, 3).reshape(-1, 4, 2)
    assert uv[0].tolist() == [[0, 0], [1 / 3, 0], [1 / 3, 0.5], [0, 0.5]]
    assert np.ptp(uv.reshape(-1, 2), axis=0).tolist() == [1, 1]


def test_places_follow_their_axes_row_by_row() -> None:
    made = lattice_places(np.array([0.0, 0, 1]), np.array([-1.0, 2]), np.array([0.0, 1, 0]), np.array([5.0, 6, 7]))
    assert made.tolist() == [[0, 5, -1], [0, 5, 2], [0, 6, -1], [0, 6, 2], [0, 7, -1], [0, 7, 2]]
