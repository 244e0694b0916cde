"""Struts: put tubes around edges or curves and close them where they meet: the result is watertight."""

import numpy as np
import pytest

from reticula.core import ops
from tests.core.operators.curves.support import zigzag
from tests.helpers import is_closed, volume


class TestStruts:
    @pytest.mark.parametrize("sides", [3, 4, 7, 12])
    @pytest.mark.parametrize("shape", ["box", "geodesic_sphere", "grid", "torus"])
    def test_joints_are_closed(self, shape: str, sides: int) -> None:
        geo = {
            "box": ops.box(cells=(2, 1, 1)),
            "geodesic_sphere": ops.geodesic_sphere(frequency=2),
            "grid": ops.grid(cells=(2, 3)),
            "torus": ops.torus(segments=9, sides=6),
        }[shape]
        made = ops.struts(geo, sides=sides, radius=0.02)
        assert is_closed(made)
        loops = geo.topology.edge_count - len(np.unique(geo.topology.corner_point)) + 1
        assert made.topology.euler_characteristic == 2 - 2 * loops, "a handle for every loop of edges"
        assert volume(made) > 0

    def test_along_curves_with_ends_and_branches(self) -> None:
        star = ops.join(*(ops.line(begin=(0, 0, 0), end=end) for end in ((1, 0, 0), (0, 1, 0), (0, 0, 1), (-1, 0, 0))))
        made = ops.struts(ops.weld(star), along="curve", radius=0.05)
        assert is_closed(made)
        assert made.topology.euler_characteristic == 2
        assert made.group("face", "cap").sum() == 4
        assert made.group("face", "joint").any()

    def test_two_that_meet_bend_into_each_other(self) -> None:
        made = ops.struts(zigzag(4), along="curve", sides=6)
        assert made.counts["points"] == 4 * 6
        assert is_closed(made)
