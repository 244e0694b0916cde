"""Scatter in region: scatter random points inside of flat closed curves."""

import numpy as np

from reticula.core import ops
from reticula.core.diagnostics import Note
from tests.core.operators.scattering.support import gaps


def test_regions_have_holes(notes: list[Note]) -> None:
    ring = ops.join(ops.circle(radius=1), ops.circle(radius=0.5))
    made = ops.scatter_in_region(ring, total=300)
    away = np.linalg.norm(made.positions, axis=1)
    assert away.min() > 0.49
    assert away.max() <= 1.0
    assert np.abs(made.positions[:, 1]).max() < 1e-12
    assert gaps(made).min() > 0.02
    assert ops.scatter_in_region(ops.line()).topology.point_count == 0
    assert "no closed curve" in notes[-1].text
