"""A sheet that asks, and a ball with values that is asked."""

import pytest

from reticula.core import Geo, ops


@pytest.fixture(scope="session")
def sheet() -> Geo:
    return ops.grid(cells=(6, 6))


@pytest.fixture(scope="session")
def ball() -> Geo:
    made = ops.transform(ops.geodesic_sphere(radius=0.3, frequency=5), move=(0, 0.5, 0))
    made = ops.set_attribute(made, name="heat", value="position.x * 2")
    made = ops.set_attribute(made, name="zone", kind="face", value="index % 3")
    return ops.set_attribute(made, name="level", kind="whole", value="7.5")
