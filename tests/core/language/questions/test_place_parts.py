"""What a place is in generated code."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.language.questions.place_parts import PLACE_WIDTH, what_lies_on


@pytest.mark.parametrize(
    ("geo", "on"),
    [(ops.box(), "faces"), (ops.line(), "curves"), (Geo.of(np.eye(3)), "points"), (Geo.empty(), "points")],
)
def test_places_lie_on_faces_else_curves_else_points(geo: Geo, on: str) -> None:
    assert what_lies_on(geo) == on
    assert PLACE_WIDTH[on] >= 2
