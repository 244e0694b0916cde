"""Corner values read beside seams: each side gives its own."""

import numpy as np
import pytest

from reticula.core import ops
from reticula.core.geometry.measure.seams import corner_seams
from reticula.core.spatial.seam_sampling import sample_beside_seams

CAN = ops.cylinder(caps=False, segments=8, rings=3)
SEAMS = corner_seams(CAN)
U = CAN.attribute("corner", "uv")[:, 0]
ON = CAN.positions[CAN.topology.edges[SEAMS]].mean(axis=1)


@pytest.mark.parametrize("turn", [1.0, -1.0])
def test_on_a_seam_the_side_decides(turn: float) -> None:
    inward = turn * np.cross(ON, [0, 1.0, 0])
    corners, weights = sample_beside_seams(CAN, SEAMS, ON, inward, np.ones(3, bool))
    found = (U[corners] * weights).sum(axis=1)
    other, weights = sample_beside_seams(CAN, SEAMS, ON, -inward, np.ones(3, bool))
    assert sorted([found[0], (U[other] * weights).sum(axis=1)[0]]) == pytest.approx([0, 1])
    assert np.ptp(found) < 1e-9


def test_off_seams_the_surface_decides() -> None:
    middles = CAN.positions[CAN.topology.corner_point].reshape(-1, 4, 3).mean(axis=1)
    corners, weights = sample_beside_seams(CAN, SEAMS, middles, np.zeros_like(middles), np.zeros(24, bool))
    assert (U[corners] * weights).sum(axis=1) == pytest.approx(U.reshape(-1, 4).mean(axis=1))
