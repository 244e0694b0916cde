"""Faces cut where others cross them: values and old edges are kept."""

from functools import partial

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.geometry import measure
from reticula.core.operators.shared.solids.crossing_cuts import cut_at_crossings
from reticula.core.spatial.crossings import crossing_segments


def by(other: Geo, places: np.ndarray, _: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    return crossing_segments(places, other)


def test_a_sheet_is_cut_by_a_blade_across_it() -> None:
    sheet = ops.grid(cells=(3, 3), size=(3, 3))
    sheet = sheet.with_attribute("point", "x", sheet.positions[:, 0])
    sheet = sheet.with_attribute("edge", "old", np.ones(sheet.topology.edge_count))
    blade = ops.transform(ops.grid(cells=(1, 1), size=(9, 9)), turn=(0, 0, 90), move=(0.2, 0, 0))
    made = cut_at_crossings(sheet, partial(by, blade), 4.0)
    assert made.attribute("point", "x") == pytest.approx(made.positions[:, 0])
    assert measure.face_areas(made).sum() == pytest.approx(9)
    assert np.array_equal(made.positions[: sheet.counts["points"]], sheet.positions)
    length = np.linalg.norm(np.diff(made.positions[made.topology.edges], axis=1)[:, 0], axis=1)
    old = made.attribute("edge", "old") == 1
    assert length[old].sum() == pytest.approx(24), "all that is left of old edges"
    assert not old[(np.abs(made.positions[made.topology.edges][:, :, 0] - 0.2) < 1e-9).all(axis=1)].any()


def test_what_nothing_crosses_is_the_same_object() -> None:
    ball = ops.sphere()
    far = ops.transform(ops.box(), move=(9, 0, 0))
    assert cut_at_crossings(ball, partial(by, far), 2.0) is ball
