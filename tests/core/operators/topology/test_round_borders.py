"""Round borders: move the points of each border loop onto a circle in its best plane."""

import numpy as np
import pytest

from reticula.core import ops
from reticula.core.diagnostics import Note

SQUARE = "max(abs(position.x), abs(position.z)) < 0.3"


class TestRoundBorders:
    def test_round_borders(self) -> None:
        made = ops.round_borders(ops.grid(cells=(10, 10)), where=SQUARE)
        on = made.group("point", "round")
        away = np.linalg.norm(made.positions[on], axis=1)
        assert np.ptp(away) < 1e-12
        assert on.sum() == 24
        given_ = ops.round_borders(ops.grid(cells=(10, 10)), where=SQUARE, size="given", radius=0.2)
        assert np.linalg.norm(given_.positions[given_.group("point", "round")], axis=1) == pytest.approx(
            np.full(24, 0.2)
        )

    def test_circles_do_not_overlap(self, notes: list[Note]) -> None:
        sheet = ops.grid(cells=(12, 6), size=(2, 1))
        made = ops.round_borders(
            sheet, where="abs(abs(position.x) - 0.5) < 0.25 and abs(position.z) < 0.25", size="given", radius=0.9
        )
        on = made.positions[made.group("point", "round")]
        assert np.abs(on[:, 0]).min() > 0
        assert "made smaller" in notes[0].text
