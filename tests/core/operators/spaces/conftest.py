"""Shapes that the tests of this folder share."""

import pytest

from reticula.core import Geo, ops


@pytest.fixture
def ball() -> Geo:
    return ops.geodesic_sphere(radius=0.5, frequency=6)
