"""Sweep: move a circle or a profile along curves."""

import numpy as np
import pytest

from reticula.core import ops
from reticula.core.errors import GeometryError
from tests.core.operators.curves.support import zigzag
from tests.helpers import is_closed, volume


class TestSweep:
    def test_a_straight_tube_has_the_volume_of_its_prism(self) -> None:
        made = ops.sweep(ops.line(segments=3), radius=0.1, sides=32)
        assert is_closed(made)
        assert volume(made) == pytest.approx(0.5 * 32 * np.sin(2 * np.pi / 32) * 0.01)
        assert made.group("face", "cap").sum() == 2

    def test_a_closed_ring_has_the_topology_of_a_torus(self) -> None:
        made = ops.sweep(ops.circle(radius=1, segments=64), radius=0.2, sides=12)
        assert is_closed(made)
        assert made.topology.euler_characteristic == 0
        assert volume(made) == pytest.approx(2 * np.pi * np.pi * 0.04, rel=0.06)

    def test_bends_keep_the_thickness(self) -> None:
        frame = ops.sweep(ops.rectangle(size=(2, 2)), ops.rectangle(size=(0.2, 0.1)), radius=1.0)
        assert volume(frame) == pytest.approx(8 * 0.02)
        assert frame.counts["faces"] == 16

    def test_taper_and_formula(self) -> None:
        made = ops.sweep(ops.line(segments=4), radius="0.1 + 0.1 * fraction", taper=[[0, 1], [1, 0]], sides=8)
        around = np.linalg.norm(made.positions[:, [0, 2]], axis=1).reshape(-1, 8).mean(axis=1)
        assert around == pytest.approx([0.1, 0.125 * 0.75, 0.15 * 0.5, 0.175 * 0.25, 0], abs=1e-9)

    def test_values_of_points_and_curves_reach_the_tube(self) -> None:
        curve = (
            zigzag().with_attribute("point", "heat", np.arange(7.0)).with_attribute("curve", "rope", np.array(["a"]))
        )
        made = ops.sweep(curve, sides=5)
        assert made.attribute("point", "heat").tolist() == np.repeat(np.arange(7.0), 5).tolist()
        assert set(made.attribute("face", "rope")) == {"a"}
        assert made.attribute("corner", "uv")[:, 0].max() == 1

    def test_a_profile_needs_a_curve(self) -> None:
        with pytest.raises(GeometryError, match="give a curve"):
            ops.sweep(ops.line(), ops.box())
