"""Cylinder: cylinder of quads around the y axis, its ends closed or open."""

import pytest

from reticula.core import ops
from tests.helpers import outward


@pytest.mark.parametrize(("caps", "euler"), [(True, 2), (False, 0)])
def test_cylinder(caps: bool, euler: int) -> None:
    tube = ops.cylinder(radius=1, height=3, segments=12, rings=4, caps=caps)
    assert tube.topology.euler_characteristic == euler
    assert tube.group("face", "side").sum() == 48
    assert tube.group("face", "cap").sum() == 2 * caps
    if caps:
        assert outward(tube).min() > 0
