"""Rectangle: closed curve of four points around the origin."""

import numpy as np
import pytest

from reticula.core import ops
from reticula.core.geometry import measure


@pytest.mark.parametrize(("facing", "normal"), [("up", [0, 1, 0]), ("forward", [0, 0, 1]), ("side", [1, 0, 0])])
def test_flat_curves_run_counter_clockwise(facing: str, normal: list[float]) -> None:
    for name in ("rectangle", "circle", "regular_polygon"):
        sheet = ops.fill(getattr(ops, name)(facing=facing), what="curve")
        assert measure.face_normals(sheet)[0] == pytest.approx(normal)
    assert measure.face_normals(ops.disc(facing=facing)) == pytest.approx(np.tile(normal, (128, 1)))
