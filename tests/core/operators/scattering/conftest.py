"""Shapes that the tests of this folder share."""

import pytest

from reticula.core import Geo, ops


@pytest.fixture(scope="module")
def ball() -> Geo:
    return ops.set_attribute(ops.geodesic_sphere(radius=1.0, frequency=8), name="heat", value="position.y")
