"""Shapes that the tests of this folder share."""

import numpy as np
import pytest

from reticula.core import Geo, ops


@pytest.fixture
def source() -> Geo:
    """A square metre with a linear field on its points and a label on its faces."""
    sheet = ops.grid(size=(1, 1), cells=(4, 4))
    sheet = ops.set_attribute(sheet, name="heat", value="3 * position.x - position.z + 1")
    return ops.set_attribute(sheet, name="plot", kind="face", value="index")


@pytest.fixture
def dots(rng: np.random.Generator) -> Geo:
    places = rng.uniform(-0.5, 0.5, (200, 3))
    places[:, 1] *= 0.1
    return Geo.of(places)


@pytest.fixture
def row() -> Geo:
    """Six points in a row with the values 0 to 5, on a strip of quads."""
    sheet = ops.grid(size=(5, 1), cells=(5, 1))
    return ops.set_attribute(sheet, name="value", value="position.x + 2.5")


@pytest.fixture(scope="module")
def sheet() -> Geo:
    return ops.grid(cells=(40, 40))
