"""Cells cut by some of their neighbours only."""

import numpy as np
import pytest

from reticula.core.geometry.voronoi.diagram import diagram_of
from reticula.core.geometry.voronoi.loose_cells import loose_cells, select_neighbours

LOW, HIGH = np.zeros(3), np.ones(3)


def test_each_cell_stands_with_its_neighbours(rng: np.random.Generator) -> None:
    diagram = diagram_of(rng.random((15, 3)), LOW, HIGH)
    made = loose_cells(diagram, select_neighbours(diagram, 5, 0.0), LOW, HIGH)
    cells = np.flatnonzero(made.owner)
    assert made.center[cells].tolist() == list(range(15))
    assert np.array_equal(made.diagram.centers[: made.diagram.count], diagram.centers[made.center])
    sizes = np.diff(made.diagram.near_start)
    assert (sizes[~made.owner] == 0).all()
    assert (sizes[cells] <= 5).all()
    assert made.owner[made.diagram.edge_cells[:, 0]].all()
    assert not made.owner[made.diagram.edge_cells[:, 1:]].any()


def test_vertices_are_as_far_from_all_cells_around_them(rng: np.random.Generator) -> None:
    diagram = diagram_of(rng.random((30, 3)), LOW, HIGH)
    made = loose_cells(diagram, select_neighbours(diagram, 8, 0.0), LOW, HIGH).diagram
    for end in (0, 1):
        place = made.vertex[made.edge_ends[:, end]]
        good = ~made.helped[made.edge_ends[:, end]]
        far = np.linalg.norm(made.centers[made.edge_cells] - place[:, None], axis=2)[good]
        assert np.ptp(far, axis=1) == pytest.approx(0, abs=1e-6)


def test_limits_leave_the_nearest(rng: np.random.Generator) -> None:
    diagram = diagram_of(rng.random((15, 3)), LOW, HIGH)
    two = select_neighbours(diagram, 2, 0.0)
    owner = np.repeat(np.arange(diagram.count), np.diff(diagram.near_start))
    assert (np.bincount(owner[two], minlength=15) <= 2).all()
    far = np.linalg.norm(diagram.centers[owner] - diagram.centers[diagram.near], axis=1)
    assert (far[select_neighbours(diagram, 0, 0.3)] <= 0.3).all()
