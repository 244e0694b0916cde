"""Open meshes cut where others cross them."""

import numpy as np
import pytest

from reticula.core import ops
from reticula.core.diagnostics import collecting
from reticula.core.geometry import measure
from reticula.core.operators.shared.solids.sheet_cuts import cut_sheet

SHEET = ops.grid(size=(2, 2), cells=(4, 4))


def test_the_part_inside_a_box_has_its_area_and_a_seam_around_it() -> None:
    with collecting():
        made, within, seam = cut_sheet(SHEET, [ops.transform(ops.box(), turn=(0, 20, 0))])
    area = measure.face_areas(made)
    assert area[within].sum() == pytest.approx(1)
    assert area.sum() == pytest.approx(4)
    assert measure.edge_lengths(made)[seam].sum() == pytest.approx(4)
    assert made.topology.border_edges.sum() == SHEET.topology.border_edges.sum(), "nothing opened"


def test_what_is_not_crossed_is_the_same_mesh() -> None:
    with collecting():
        made, within, seam = cut_sheet(SHEET, [ops.transform(ops.box(), move=(0, 5, 0))])
    assert made.digest == SHEET.digest
    assert not within.any()
    assert not seam.any()


def test_points_that_were_there_stay_to_the_bit() -> None:
    with collecting():
        made, _, _ = cut_sheet(SHEET, [ops.geodesic_sphere(radius=0.7)])
    assert made.positions[:25].tobytes() == SHEET.positions.tobytes()
    far = np.linalg.norm(made.positions[25:], axis=1)
    assert far.max() <= 0.7 + 1e-9
