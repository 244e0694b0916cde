"""A sheet that asks, a ball with values that is asked, and a field for random programs."""

import numpy as np
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


@pytest.fixture(scope="session")
def field() -> Geo:
    """Six faces with a random number and a random mark on their points: what random programs run on."""
    rng = np.random.default_rng(3)
    geo = ops.grid(size=(2, 1), cells=(3, 2))
    count = geo.topology.point_count
    geo = geo.with_attribute("point", "heat", rng.normal(size=count))
    return geo.with_attribute("point", "crest", rng.random(count) > 0.5)
