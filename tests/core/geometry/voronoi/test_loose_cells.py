"""Cells cut by some of their neighbours only."""

import numpy as np
import pytest

from reticula.core import ops
from reticula.core.geometry.voronoi.diagram import diagram_of
from reticula.core.geometry.voronoi.loose_cells import loose_cells, select_neighbours
from tests.helpers import volume


def test_with_all_neighbours_the_cells_fill_the_solid(rng: np.random.Generator) -> None:
    geo = ops.box(size=(2, 2, 2))
    diagram = diagram_of(rng.random((6, 3)) * 2 - 1, *geo.bounds)
    every = select_neighbours(diagram, 0, 0.0)
    made = loose_cells(geo, diagram, every, np.arange(6), cap=True)
    assert sum(volume(piece) for _, piece, _ in made) == pytest.approx(8)
    assert [number for number, _, _ in made] == list(range(6))


def test_limits_leave_the_nearest(rng: np.random.Generator) -> None:
    diagram = diagram_of(rng.random((15, 3)), np.zeros(3), np.ones(3))
    two = select_neighbours(diagram, 2, 0.0)
    owner = np.repeat(np.arange(diagram.count), np.diff(diagram.near_start))
    assert (np.bincount(owner[two], minlength=15) <= 2).all()
    far = np.linalg.norm(diagram.centers[owner] - diagram.centers[diagram.near], axis=1)
    assert (far[select_neighbours(diagram, 0, 0.3)] <= 0.3).all()
