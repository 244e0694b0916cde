"""Inner faces of a solid's cells."""

import numpy as np
from scipy.spatial import cKDTree

from reticula.core import ops
from reticula.core.geometry.voronoi.cell_caps import caps_of
from reticula.core.geometry.voronoi.cells import fragments
from reticula.core.geometry.voronoi.diagram import diagram_of
from reticula.core.spatial.inside import inside


def test_every_inner_face_is_met_from_the_other_cell(rng: np.random.Generator) -> None:
    geo = ops.box(size=(2, 2, 2))
    centers = rng.random((9, 3)) * 2 - 1
    diagram = diagram_of(centers, *geo.bounds)
    parts = fragments(geo, diagram, cKDTree(centers).query(geo.positions)[1])
    caps = caps_of(diagram, parts, inside(geo, diagram.vertex))
    assert caps.broken == 0
    pairs = {*zip(caps.cell.tolist(), caps.beyond.tolist(), strict=True)}
    assert pairs == {(b, a) for a, b in pairs}
    for a, b, cell, beyond in zip(caps.start, caps.start[1:], caps.cell, caps.beyond, strict=False):
        way = centers[beyond] - centers[cell]
        heights = (caps.place[a:b] - (centers[cell] + centers[beyond]) / 2) @ way
        assert np.abs(heights).max() < 1e-7, "it lies halfway between the two centres"


def test_a_cell_without_neighbours_has_no_inner_face() -> None:
    geo = ops.box()
    diagram = diagram_of(np.zeros((1, 3)), *geo.bounds)
    parts = fragments(geo, diagram, np.zeros(8, np.int32))
    assert len(caps_of(diagram, parts, inside(geo, diagram.vertex)).cell) == 0
