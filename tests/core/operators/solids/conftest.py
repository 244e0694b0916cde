"""Shapes that the tests of this folder share."""

import numpy as np
import pytest

from reticula.core import Geo, ops


@pytest.fixture
def ball() -> Geo:
    """A sphere of quads with random values on every kind."""
    rng = np.random.default_rng(1)
    made = ops.transform(ops.sphere(), move=(0.1234567, 1 / 3, 77.7))
    shape = made.topology
    made = made.with_attribute("edge", "crease", 1 + rng.random(shape.edge_count))
    made = made.with_attribute("corner", "uv", rng.random((shape.corner_count, 2)))
    return made.with_attribute("point", "heat", 1 + rng.random(shape.point_count))
