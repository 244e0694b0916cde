"""Switch: which geometry passes, and what is said of a number that none has."""

import pytest

from reticula.core import Geo, ops
from reticula.core.errors import ParameterError

SHAPES = [ops.grid(cells=(n, 1)) for n in (1, 2, 3)]


@pytest.mark.parametrize("chosen", [0, 1, 2])
def test_the_chosen_one_passes_untouched(chosen: int) -> None:
    assert ops.switch(*SHAPES, chosen=chosen) is SHAPES[chosen]


def test_beyond_the_last_is_an_error_or_begins_again() -> None:
    with pytest.raises(ParameterError, match="3 is too large; there are 3 geometries, 0 to 2"):
        ops.switch(*SHAPES, chosen=3)
    assert ops.switch(*SHAPES, chosen=7, around=True) is SHAPES[1]


def test_nothing_to_choose_from() -> None:
    with pytest.raises(ParameterError, match="nothing to choose from"):
        ops.switch(chosen=0)


def test_an_empty_geometry_may_be_chosen() -> None:
    assert ops.switch(Geo.empty(), SHAPES[0]).counts["points"] == 0
