"""Edges to curves: put edges end to end to curves, as long as they can be."""

import numpy as np

from reticula.core import Geo, ops


class TestEdgesToCurves:
    def test_long_chains_break_at_branches(self) -> None:
        made = ops.edges_to_curves(ops.grid(cells=(4, 4)), where="abs(position.x) < 0.01 or abs(position.z) < 0.01")
        assert made.counts["curves"] == 4
        assert np.diff(made.topology.curve_start).tolist() == [3] * 4
        border = ops.edges_to_curves(ops.grid(cells=(4, 4)), where="border")
        assert border.topology.curve_closed.tolist() == [True]
        assert border.counts["points"] == 16
        assert border.group("curve", "from_edges").all()

    def test_corners_end_curves_on_demand(self) -> None:
        made = ops.edges_to_curves(ops.grid(cells=(4, 4)), where="border", corner_angle=45)
        assert np.diff(made.topology.curve_start).tolist() == [5] * 4

    def test_edge_values_pass_to_curves(self, cube: Geo) -> None:
        made = ops.edges_to_curves(cube.with_attribute("edge", "number", np.arange(12)), keep_faces=True)
        assert made.attribute("curve", "number").tolist() == list(range(12))
        assert made.counts["faces"] == 6
