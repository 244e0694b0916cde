"""Split by group: give two geometries: what is in a group, and what is not."""

from reticula.core import Geo, ops
from reticula.core.diagnostics import Note


class TestSplitByGroup:
    def test_split_by_group_shares_out_everything(self, mixed: Geo, notes: list[Note]) -> None:
        inside, outside = ops.split_by_group(mixed, where="index == 0")
        assert (inside.counts["faces"], outside.counts["faces"]) == (1, 2)
        assert (inside.counts["curves"], outside.counts["curves"]) == (0, 2)
        assert (outside.positions == [9, 9, 9]).all(axis=1).any(), "the loose point goes outside"
        near, far = ops.split_by_group(mixed, kind="point", where="position.x < 5")
        assert far.counts["points"] == 1
        assert near.counts["points"] == 8
