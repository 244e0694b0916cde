"""Edges across which corner values do not go on, and what hangs together between them."""

import numpy as np

from reticula.core import ops
from reticula.core.geometry.measure.seams import charts, corner_seams, joined_elements

SHEET = ops.grid(cells=(4, 2))


def test_values_that_go_on_make_no_seam() -> None:
    assert not corner_seams(SHEET).any()
    assert not corner_seams(SHEET.without_attribute("corner", "uv")).any()


def test_a_jump_is_a_seam_and_parts_the_charts() -> None:
    uv = SHEET.attribute("corner", "uv").copy()
    right = SHEET.positions[SHEET.topology.corner_point].reshape(-1, 4, 3).mean(axis=1)[:, 0] > 0
    uv[np.repeat(right, 4)] += 5
    torn = SHEET.with_attribute("corner", "uv", uv)
    seams = corner_seams(torn)
    assert seams.sum() == 2
    assert np.abs(torn.positions[torn.topology.edges[seams]][..., 0]).max() == 0
    assert charts(torn, seams).tolist() == right.astype(int).tolist()


def test_a_cylinder_s_seam_leaves_one_chart() -> None:
    can = ops.cylinder(caps=False, segments=8, rings=3)
    seams = corner_seams(can)
    assert seams.sum() == 3
    assert len(set(charts(can, seams))) == 1


def test_the_lowest_stands_for_all() -> None:
    assert joined_elements(5, np.array([3, 4]), np.array([1, 3])).tolist() == [0, 1, 2, 1, 1]
