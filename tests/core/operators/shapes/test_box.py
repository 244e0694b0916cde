"""Box: box around the origin, all sides joined."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from reticula.core import ops
from tests.helpers import outward, volume


@given(st.integers(1, 5), st.integers(1, 5), st.integers(1, 5))
def test_box(x: int, y: int, z: int) -> None:
    box = ops.box(size=(1, 2, 3), cells=(x, y, z))
    assert box.counts["faces"] == 2 * (x * y + y * z + z * x)
    assert box.topology.euler_characteristic == 2
    assert not box.topology.border_edges.any()
    assert outward(box).min() > 0
    assert volume(box) == pytest.approx(6)
