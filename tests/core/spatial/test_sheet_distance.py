"""A cell and the sheet of triangles that covers it."""

import numpy as np
import pytest

from reticula.core import ops
from reticula.core.spatial.sheet_distance import sheet_distance, sheet_of

SHEET = ops.triangulate(ops.grid(cells=(8, 8)))
CELL = np.array([[-0.2, 0.01, -0.2], [0.2, 0.02, -0.2], [-0.2, 0.0, 0.25]])
MIDDLE = int(np.argmin(np.linalg.norm(sheet_of(SHEET).corner.mean(axis=1), axis=1)))


def covered(cell: np.ndarray, limit: float, sheet: object = SHEET, start: int = MIDDLE) -> bool:
    return bool(sheet_distance(sheet_of(sheet), cell, start, limit, 1e-9))


def test_neighbours_go_both_ways_and_end_at_borders() -> None:
    corner, beside = sheet_of(SHEET)
    assert corner.shape == (128, 3, 3)
    assert (beside < 0).sum() == 32
    for t, e in np.argwhere(beside >= 0):
        assert t in beside[beside[t, e]]


def test_heights_over_a_cell_bound_its_distance() -> None:
    assert covered(CELL, 0.021)
    assert not covered(CELL, 0.015)


def test_which_way_the_cell_or_the_sheet_faces_is_no_matter() -> None:
    assert covered(CELL[[0, 2, 1]], 0.021)
    assert covered(CELL, 0.021, ops.reverse(SHEET), MIDDLE)


@pytest.mark.parametrize("inside", [True, False])
def test_no_border_lies_over_the_cell(inside: bool) -> None:
    edge = np.array([[0.5, 0, -0.1], [0.5, 0, 0.1], [0.3, 0, 0]]) + [0 if inside else 0.01, 0, 0]
    start = int(np.argmin(np.linalg.norm(sheet_of(SHEET).corner.mean(axis=1) - [0.45, 0, 0], axis=1)))
    assert covered(edge, 0.05, start=start) == inside


def test_a_hole_is_no_cover() -> None:
    middle = np.linalg.norm(SHEET.positions, axis=1).argmin()
    holed = ops.remove(SHEET, where=f"index == {middle}", kind="point")
    start = int(np.argmin(np.linalg.norm(sheet_of(holed).corner.mean(axis=1) - [-0.15, 0, 0.15], axis=1)))
    assert not covered(CELL, 0.5, holed, start)


def test_a_fold_is_no_cover() -> None:
    place = np.array(SHEET.positions)
    middle = np.linalg.norm(place, axis=1).argmin()
    place[middle] += [0.3, 0.001, 0.3]
    assert not covered(CELL, 0.5, SHEET.with_positions(place))


def test_flat_cells_and_missing_triangles_are_not_covered() -> None:
    assert not covered(np.zeros((3, 3)), 1.0)
    assert not covered(CELL, 1.0, start=-1)
