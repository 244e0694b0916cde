"""Shapes that the tests of this folder share."""

import pytest

from reticula.core import Geo, ops


@pytest.fixture
def sheet() -> Geo:
    return ops.grid(cells=(5, 5))


@pytest.fixture
def strip() -> Geo:
    """Ten faces in a row along x, 0.1 m each, from x = -0.5."""
    return ops.grid(size=(1.0, 0.1), cells=(10, 1))
