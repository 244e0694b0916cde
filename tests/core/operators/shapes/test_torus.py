"""Torus: ring of quads around the y axis."""

import numpy as np
import pytest

from reticula.core import ops
from tests.helpers import volume


def test_torus() -> None:
    ring = ops.torus(radius=2, thickness=0.5, segments=200, sides=100)
    assert ring.topology.euler_characteristic == 0
    assert volume(ring) == pytest.approx(2 * np.pi**2 * 2 * 0.5**2, rel=2e-3)
