"""Region borders: find the edges between faces that hold different labels, and part the faces there on demand."""

import pytest

from reticula.core import ops
from reticula.core.diagnostics import Note
from reticula.core.errors import ParameterError


class TestRegionBorders:
    def test_region_borders(self, notes: list[Note]) -> None:
        sheet = ops.set_attribute(ops.grid(cells=(4, 1)), name="zone", kind="face", value="index // 2")
        made = ops.region_borders(sheet, label="zone", split=True)
        assert ops.region_borders(sheet, label="zone").group("edge", "region_border").sum() == 1
        assert made.topology.point_piece.max() == 1
        box = ops.region_borders(ops.box(cells=(2, 2, 2)))
        assert box.group("edge", "region_border").sum() == 24
        with pytest.raises(ParameterError, match="takes a face attribute"):
            ops.region_borders(sheet, label="nothing")
