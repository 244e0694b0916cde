"""Statistics: work out bounds."""

import numpy as np
import pytest

from reticula.core import ops
from reticula.core.diagnostics import Note
from reticula.core.errors import ParameterError
from reticula.core.language import evaluate


def test_statistics_feed_formulas_further_down(notes: list[Note]) -> None:
    tall = ops.statistics(ops.box(size=(1, 3, 1)), name="height", value="position.y")
    assert tall.attribute("whole", "height_high")[0] - tall.attribute("whole", "height_low")[0] == pytest.approx(3.0)
    assert tall.attribute("whole", "height_count")[0] == 8
    assert notes[0].text == "8 points: -1.5 to 1.5; mean 0."
    share = evaluate("remap(position.y, height_low, height_high, 0, 1)", tall, "point").array
    assert set(share) == {0.0, 1.0}
    corners = ops.statistics(ops.box(), name="box", value="position", where="position.y > 10")
    assert "No points count" in notes[-1].text
    np.testing.assert_array_equal(corners.attribute("whole", "box_low"), np.zeros((1, 3)))
    middle = ops.statistics(ops.grid(cells=(2, 1)), kind="face", name="n", value="index")
    assert middle.attribute("whole", "n_median")[0] == 0.5
    assert middle.attribute("whole", "n_deviation")[0] == 0.5
    with pytest.raises(ParameterError, match="need numbers"):
        ops.statistics(ops.box(), value="'a'")
