"""Points of curves and gradients: steps are kept where they are not the usual one, and every fault is named."""

import numpy as np
import pytest

from reticula.core.errors import ParameterError
from reticula.core.operators.declaration.parameters import Number
from reticula.core.operators.shared.profiles.points import checked_points
from reticula.core.operators.shared.profiles.response_curve import ResponseCurve

CURVE = ResponseCurve("profile", [[0.0, 0.0], [1.0, 1.0]], "help")
PART = Number("profile", 0.0, "", low=0.0, high=1.0)


def test_the_usual_step_is_left_out_and_arrays_are_taken() -> None:
    assert checked_points(CURVE, [(0, 1, "smooth"), (1, 1, "constant")], "points", (PART, PART), "smooth") == [
        [0.0, 1.0],
        [1.0, 1.0, "constant"],
    ]
    assert checked_points(CURVE, np.eye(2)[::-1], "points", (PART, PART), "smooth") == [[0.0, 1.0], [1.0, 0.0]]


@pytest.mark.parametrize("given", [None, [], [3], [[0, 1, 2]], [["smooth"]], [[0, 1, "bent"]], [[1, 0], [0, 1]]])
def test_what_is_no_list_of_points_is_refused(given: object) -> None:
    with pytest.raises(ParameterError):
        checked_points(CURVE, given, "points", (PART, PART), "smooth")
