"""What a geometry is asked: values, groups and counts, and what is said of names that are not there."""

import numpy as np
import pytest

from reticula.core import Geo, ops
from reticula.core.errors import GeometryError


@pytest.fixture
def tile() -> Geo:
    made = ops.group(ops.grid(cells=(1, 2)), name="far", where="position.z > 0")
    return made.with_attribute("point", "marks", [[1, 2], [], [3], [], [], []], "integer list")


def test_lists_come_apart(tile: Geo) -> None:
    assert [part.tolist() for part in tile.attribute("point", "marks")] == [[1, 2], [], [3], [], [], []]


def test_groups_are_flags(tile: Geo) -> None:
    assert tile.groups("face") == ["far"]
    assert tile.group("face", "far").tolist() == [True, False]
    with pytest.raises(GeometryError, match="'marks' is an integer list, not a group"):
        tile.group("point", "marks")


def test_a_name_that_is_not_there_says_where_it_is(tile: Geo) -> None:
    assert not tile.has("point", "far")
    with pytest.raises(GeometryError, match="it is an attribute of each face"):
        tile.find("point", "far")
    with pytest.raises(GeometryError, match="did you mean marks"):
        tile.attribute("point", "mark")


def test_counts_by_kind(tile: Geo) -> None:
    assert tile.counts == {"points": 6, "edges": 7, "corners": 8, "faces": 2, "curves": 0, "instances": 0}
    assert np.array_equal(tile.positions, tile.attribute("point", "position"))
