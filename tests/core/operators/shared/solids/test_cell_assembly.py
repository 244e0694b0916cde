"""Fragments and inner faces of cells as one mesh: points of a piece shared, pieces apart, values and names kept."""

import numpy as np
import pytest

from reticula.core import ops
from reticula.core.geometry.voronoi.cell_caps import caps_of
from reticula.core.geometry.voronoi.cells import fragments
from reticula.core.geometry.voronoi.diagram import diagram_of
from reticula.core.operators.shared.solids.cell_assembly import WAS, CellNames, assemble_cells
from reticula.core.spatial.inside import inside
from tests.helpers import is_closed, volume

CENTERS = np.array([[-0.25, 0.01, 0.02], [0.25, -0.02, 0.01], [0.01, 0.02, 0.3]])


@pytest.mark.parametrize("first_cells", [0, 2])
def test_two_pieces_of_a_box(first_cells: int) -> None:
    box = ops.box().with_attribute("point", WAS, np.arange(8))
    box = box.with_attribute("point", "x", box.positions[:, 0])
    diagram = diagram_of(CENTERS, *box.bounds)
    home = np.linalg.norm(box.positions[:, None] - CENTERS, axis=2).argmin(axis=1)
    parts = fragments(box, diagram, home)
    caps = caps_of(diagram, parts, inside(box, diagram.vertex))
    names = CellNames(np.array([0, 1, 7]), first_cells, "cell", "inner")
    made = assemble_cells(box, parts, caps, CENTERS, names)
    assert is_closed(made)
    assert sorted(set(made.attribute("face", "cell"))) == ([0, 1] if first_cells else [0, 1, 7])
    if not first_cells:
        assert volume(made) == pytest.approx(1)
        assert (made.attribute("point", WAS) >= 0).sum() == 8
    on_surface = np.unique(made.topology.corner_point[~made.group("face", "inner")[made.topology.corner_face]])
    assert made.attribute("point", "x")[on_surface] == pytest.approx(made.positions[on_surface, 0])
