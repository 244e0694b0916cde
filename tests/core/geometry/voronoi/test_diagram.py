"""Voronoi cells: who is next to whom, against brute force."""

import numpy as np

from reticula.core.geometry.voronoi.diagram import diagram_of

LOW, HIGH = np.zeros(3), np.ones(3)


def test_neighbours_are_those_that_a_place_may_leave_to(rng: np.random.Generator) -> None:
    centers = rng.random((20, 3))
    diagram = diagram_of(centers, LOW, HIGH)
    near = [{*diagram.near[a:b].tolist()} for a, b in zip(diagram.near_start, diagram.near_start[1:], strict=False)]
    places = rng.random((4000, 3))
    far = np.linalg.norm(places[:, None] - centers, axis=2)
    first, second = np.argsort(far, axis=1)[:, :2].T
    assert all(int(b) in near[a] for a, b in zip(first, second, strict=True))


def test_vertices_are_as_far_from_all_their_cells(rng: np.random.Generator) -> None:
    diagram = diagram_of(rng.random((30, 3)), LOW, HIGH)
    for cells, ends in zip(diagram.edge_cells, diagram.edge_ends, strict=True):
        for end in ends[~diagram.helped[ends]]:
            far = np.linalg.norm(diagram.centers[cells] - diagram.vertex[end], axis=1)
            assert np.allclose(far, far[0], rtol=1e-6)


def test_one_centre_has_no_neighbours() -> None:
    diagram = diagram_of(np.full((1, 3), 0.5), LOW, HIGH)
    assert diagram.count == 1
    assert (np.asarray(diagram.near)[: diagram.near_start[1]] >= 1).all(), "helpers only"
