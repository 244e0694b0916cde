"""Places with which no length can be worked out are refused, with their row."""

import numpy as np
import pytest

from reticula.core.errors import FormatError
from reticula.core.formats.shared.places import check_places


@pytest.mark.parametrize(
    ("value", "why"), [(np.nan, "is not a finite"), (-np.inf, "is not a finite"), (1e308, "farther out")]
)
def test_the_first_bad_place_is_said(value: float, why: str) -> None:
    places = np.zeros((4, 3))
    places[2, 1] = places[3, 0] = value
    with pytest.raises(FormatError, match=f"line 12: the place of vertex 2 holds .*{why}"):
        check_places(places, lambda row: {"line": row + 10})


def test_large_places_are_fine() -> None:
    check_places(np.full((2, 3), -1e99))
    check_places(np.zeros((0, 3)))
