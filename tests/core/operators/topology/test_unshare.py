"""Unshare: give faces points of their own, one per corner, so that nothing is shared with their neighbours."""

from reticula.core import Geo, ops
from tests.helpers import is_closed


class TestUnshare:
    def test_unshare_and_weld_are_inverse(self, cube: Geo) -> None:
        apart = ops.unshare(cube)
        assert apart.counts["points"] == 24
        assert apart.topology.border_edges.sum() == 24
        again = ops.weld(apart, radius=0)
        assert again.counts == cube.counts
        assert is_closed(again)

    def test_a_region_parts_from_the_rest(self) -> None:
        made = ops.unshare(ops.grid(cells=(4, 4)), where="index < 8", apart_from="the rest")
        assert made.counts["points"] == 25 + 5
        assert made.topology.point_piece.max() == 1
