"""Faces parted along edges."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.geometry.edit.split_points import split_along_edges


def test_a_sheet_falls_in_two_along_a_row_of_edges() -> None:
    geo = ops.grid(cells=(4, 4))
    ends = geo.positions[geo.topology.edges]
    cut = (np.abs(ends[:, :, 0]) < 1e-9).all(axis=1)
    made = split_along_edges(geo, cut)
    assert made.counts["points"] == 25 + 5
    assert int(made.topology.point_piece.max()) == 1
    assert made.topology.border_edges.sum() == 16 + 8


def test_no_cut_parts_nothing_and_every_cut_parts_all(cube: Geo) -> None:
    assert split_along_edges(cube, np.zeros(12, bool)).counts == cube.counts
    assert split_along_edges(cube, np.ones(12, bool)).counts["points"] == 24


@pytest.mark.parametrize("cuts", [1, 2])
def test_a_cut_that_ends_inside_opens_a_slit(cuts: int) -> None:
    geo = ops.grid(cells=(4, 4))
    inner = np.flatnonzero(~geo.topology.border_points[geo.topology.edges].any(axis=1))[:cuts]
    cut = np.zeros(geo.topology.edge_count, bool)
    cut[inner] = True
    assert int(split_along_edges(geo, cut).topology.point_piece.max()) == 0
