"""Faces that may reach into cells: none that does is left out, most others are."""

import numpy as np

from reticula.core import ops
from reticula.core.geometry.voronoi.diagram import diagram_of
from reticula.core.geometry.voronoi.loose_cells import loose_cells, select_neighbours
from reticula.core.spatial.cell_reach import faces_reaching_cells


def test_faces_whose_points_lie_in_a_cell_reach_it(rng: np.random.Generator) -> None:
    ball = ops.sphere(segments=40, rings=20)
    diagram = diagram_of(rng.uniform(-0.5, 0.5, (20, 3)), *ball.bounds)
    made = loose_cells(diagram, select_neighbours(diagram, 6, 0.0), *ball.bounds)
    pairs = {tuple(pair) for pair in faces_reaching_cells(ball, made.diagram, made.owner)}
    shape, cells = ball.topology, made.diagram
    for cell in np.flatnonzero(made.owner):
        near = cells.near[cells.near_start[cell] : cells.near_start[cell + 1]]
        far = np.linalg.norm(ball.positions[:, None] - cells.centers[np.append(cell, near)], axis=2)
        inside = far.argmin(axis=1) == 0
        for face in np.unique(shape.corner_face[inside[shape.corner_point]]):
            assert (face, cell) in pairs
    assert len(pairs) < 0.5 * made.owner.sum() * shape.face_count
