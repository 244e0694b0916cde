"""A largest distance goes by the shape and counts only where it is switched on."""

import numpy as np
import pytest

from reticula.core import ops
from reticula.core.diagnostics import collecting
from reticula.core.operators.shared.reach import limited_reach


def test_it_is_off_and_hidden_unless_set() -> None:
    switch, reach = limited_reach("0.5", "how far", switch="leave what is farther", most=2)
    assert (switch.name, switch.default, reach.name) == ("limit_reach", False, "reach")
    assert reach.describe()["shown_when"] == {"parameter": "limit_reach", "value": True}
    assert reach.describe()["soft"] == [0, 2]


@pytest.mark.parametrize("scale", [1e-3, 1.0, 1e3])
def test_the_default_reaches_as_far_at_every_size(scale: float) -> None:
    sheet = ops.transform(ops.grid(cells=(4, 4)), scale=(scale,) * 3)
    for height, found in ((0.5, True), (1.2, False)):
        ground = ops.transform(sheet, move=(0, -height * scale, 0))
        with collecting():
            made = ops.drape(sheet, ground, limit_reach=True, direction=(0, -1, 0))
        assert (np.abs(made.positions[:, 1]).max() > 0) == found
